import type { LeftOut } from "../api/sharing";

const NAMES: Record<LeftOut, string> = {
  terrain: "terrain",
  surface: "surface model",
  picture: "picture from above",
  forecast: "forecast",
};

/** Things in a row: "terrain, picture from above and forecast". */
export function inARow(keys: readonly LeftOut[]): string {
  const names = keys.map((key) => NAMES[key]);
  return names.length < 2 ? names.join("") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
}
