/** Every colour of Lark, once. A test holds their contrast. */

export interface Tones {
  paper: string;
  card: string;
  ink: string;
  muted: string;
  line: string;
  strong: string;
  onStrong: string;
  launch: string;
  care: string;
  stay: string;
  unknown: string;
  onVerdict: string;
  wind: string;
  ground: string;
  quiet: string;
  /** Under what is drawn on a plan view. */
  land: string;
}

export type ThemeName = "daylight" | "dusk";

export const TONES: Record<ThemeName, Tones> = {
  daylight: {
    paper: "#f8f2e6",
    card: "#fffdf7",
    ink: "#18202e",
    muted: "#515c6b",
    line: "#d9cfba",
    strong: "#18202e",
    onStrong: "#fffdf7",
    launch: "#14655c",
    care: "#9c5500",
    stay: "#8e2140",
    unknown: "#4d5a6b",
    onVerdict: "#fffdf7",
    wind: "#28599b",
    ground: "#3d5f3a",
    quiet: "#6da399",
    land: "#edf0df",
  },
  dusk: {
    paper: "#10151f",
    card: "#19212e",
    ink: "#f4eadb",
    muted: "#b9b1a3",
    line: "#3b4553",
    strong: "#f4eadb",
    onStrong: "#10151f",
    launch: "#62c7b4",
    care: "#eaa552",
    stay: "#f391a6",
    unknown: "#aeb9c9",
    onVerdict: "#10151f",
    wind: "#8fbcf3",
    ground: "#8fb487",
    quiet: "#3f7d73",
    land: "#1b2622",
  },
};

/** In the field: black on white or white on black, for a screen in the sun. */
export const FIELD_TONES: Record<ThemeName, Tones> = {
  daylight: {
    ...TONES.daylight,
    paper: "#ffffff",
    card: "#ffffff",
    ink: "#000000",
    muted: "#26292e",
    line: "#5c6167",
    strong: "#000000",
    onStrong: "#ffffff",
    launch: "#004d45",
    care: "#7a4200",
    stay: "#7a0f2e",
    unknown: "#36404d",
    onVerdict: "#ffffff",
    wind: "#0f3d7a",
  },
  dusk: {
    ...TONES.dusk,
    paper: "#000000",
    card: "#000000",
    ink: "#ffffff",
    muted: "#e2e0dc",
    line: "#9aa1aa",
    strong: "#ffffff",
    onStrong: "#000000",
    launch: "#7fe3d0",
    care: "#ffbd6b",
    stay: "#ffa9ba",
    unknown: "#c9d2df",
    onVerdict: "#000000",
    wind: "#a9cffb",
  },
};

/** The tones as CSS variables, `--launch` and so on. */
export function cssVariables(tones: Tones): Record<string, string> {
  return Object.fromEntries(Object.entries(tones).map(([name, value]) => [`--${name}`, value]));
}
