import CssBaseline from "@mui/material/CssBaseline";
import { ThemeProvider } from "@mui/material/styles";
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from "react";
import { makeTheme } from "../theme/theme";
import type { ThemeName } from "../theme/tones";
import { keep, kept } from "./device";
import { METRIC, PRESETS, type Units } from "../units/units";

interface Preferences {
  units: Units;
  setUnits: (units: Units) => void;
  nextUnits: () => Units;
  theme: ThemeName;
  toggleTheme: () => void;
  /** Larger, and black and white: for a gloved hand and a screen in the sun. */
  fieldMode: boolean;
  toggleFieldMode: () => void;
}

const Context = createContext<Preferences | null>(null);
const UNITS_KEY = "lark.units";
const THEME_KEY = "lark.theme";
const FIELD_KEY = "lark.field-mode";

function firstTheme(): ThemeName {
  const dark = window.matchMedia?.("(prefers-color-scheme: dark)").matches;
  return kept<{ name: ThemeName }>(THEME_KEY)?.name ?? (dark ? "dusk" : "daylight");
}

export const keptUnits = (): Units => ({ ...METRIC, ...kept<Units>(UNITS_KEY) });

/** Units and theme: chosen once, remembered, at hand everywhere. */
export function PreferencesProvider({ children }: { children: ReactNode }) {
  const [units, keepUnits] = useState<Units>(keptUnits);
  const [theme, keepTheme] = useState<ThemeName>(firstTheme);

  const [fieldMode, keepFieldMode] = useState(() => kept<{ on: boolean }>(FIELD_KEY)?.on ?? false);

  const setUnits = useCallback((next: Units) => {
    keepUnits(next);
    keep(UNITS_KEY, next);
  }, []);
  const nextUnits = useCallback(() => {
    const at = PRESETS.findIndex((p) => p.speed === units.speed && p.length === units.length);
    const next = PRESETS[(at + 1) % PRESETS.length]!;
    setUnits(next);
    return next;
  }, [units, setUnits]);
  const toggleTheme = useCallback(() => {
    const next: ThemeName = theme === "dusk" ? "daylight" : "dusk";
    keepTheme(next);
    keep(THEME_KEY, { name: next });
  }, [theme]);

  const toggleFieldMode = useCallback(() => {
    keepFieldMode(!fieldMode);
    keep(FIELD_KEY, { on: !fieldMode });
  }, [fieldMode]);

  const value = useMemo(
    () => ({ units, setUnits, nextUnits, theme, toggleTheme, fieldMode, toggleFieldMode }),
    [units, setUnits, nextUnits, theme, toggleTheme, fieldMode, toggleFieldMode],
  );
  const muiTheme = useMemo(() => makeTheme(theme, fieldMode), [theme, fieldMode]);
  return (
    <Context value={value}>
      <ThemeProvider theme={muiTheme}>
        <CssBaseline />
        {children}
      </ThemeProvider>
    </Context>
  );
}

export function usePreferences(): Preferences {
  const found = useContext(Context);
  if (!found) throw new Error("preferences are used outside their provider");
  return found;
}

export function useUnits(): Units {
  return usePreferences().units;
}
