import { createTheme, type Theme } from "@mui/material/styles";
import { cssVariables, FIELD_TONES, TONES, type ThemeName } from "./tones";

const FACE = '"Atkinson Hyperlegible Next Variable", system-ui, sans-serif';

/** Where fingers press: on phones and tablets. */
const TOUCH = "@media (pointer: coarse), (max-width: 899.95px)";

/** The component library's theme, made from our tones. field: larger, and black and white, for a screen in the sun. */
export function makeTheme(name: ThemeName, field = false): Theme {
  const t = (field ? FIELD_TONES : TONES)[name];
  const touched = field ? 56 : 48;
  return createTheme({
    palette: {
      mode: name === "dusk" ? "dark" : "light",
      background: { default: t.paper, paper: t.card },
      text: { primary: t.ink, secondary: t.muted },
      primary: { main: t.strong, contrastText: t.onStrong },
      secondary: { main: t.wind, contrastText: t.onVerdict },
      error: { main: t.stay, contrastText: t.onVerdict },
      warning: { main: t.care, contrastText: t.onVerdict },
      success: { main: t.launch, contrastText: t.onVerdict },
      info: { main: t.unknown, contrastText: t.onVerdict },
      divider: t.line,
    },
    shape: { borderRadius: 12 },
    typography: {
      fontFamily: FACE,
      button: { textTransform: "none", fontWeight: 700 },
      h1: { fontSize: "1.6rem", fontWeight: 750 },
      h2: { fontSize: "1.15rem", fontWeight: 750 },
      h3: { fontSize: "1rem", fontWeight: 700 },
    },
    components: {
      MuiCssBaseline: {
        styleOverrides: {
          ":root": { ...cssVariables(t), colorScheme: name === "dusk" ? "dark" : "light" },
          html: field ? { fontSize: "118%" } : {},
          body: { fontVariantNumeric: "tabular-nums" },
          a: { color: "inherit" },
          ":focus-visible": { outline: `3px solid ${t.wind}`, outlineOffset: "2px" },
          "@media (prefers-reduced-motion: reduce)": {
            "*, *::before, *::after": {
              transitionDuration: "0.01ms !important",
              animationDuration: "0.01ms !important",
            },
          },
          "@media print": {
            ":root": cssVariables(TONES.daylight),
            "nav, .no-print": { display: "none !important" },
          },
        },
      },
      MuiButton: {
        defaultProps: { disableElevation: true },
        styleOverrides: {
          root: {
            minHeight: field ? touched : 44,
            borderRadius: 10,
            [TOUCH]: { minHeight: touched },
          },
        },
      },
      MuiIconButton: { styleOverrides: { root: { minWidth: 48, minHeight: 48, color: t.ink } } },
      MuiPaper: {
        defaultProps: { elevation: 0 },
        styleOverrides: { root: { backgroundImage: "none" } },
      },
      MuiOutlinedInput: { styleOverrides: { root: { [TOUCH]: { minHeight: 48 } } } },
      MuiSelect: {
        styleOverrides: {
          select: {
            [TOUCH]: {
              minHeight: 48,
              boxSizing: "border-box",
              display: "flex",
              alignItems: "center",
            },
          },
        },
      },
      MuiMenuItem: { styleOverrides: { root: { minHeight: touched } } },
    },
  });
}
