/** Where to look, in words that need neither compass nor protractor. */

const QUARTERS = [
  "North",
  "North-east",
  "East",
  "South-east",
  "South",
  "South-west",
  "West",
  "North-west",
];

/** The nearest of eight points of the compass. */
export const quarterOf = (bearing_deg: number) =>
  QUARTERS[((Math.round(bearing_deg / 45) % 8) + 8) % 8]!;

/** A fist at arm's length is about so wide [°]; the sky-watchers' rule of thumb, from memory. */
const FIST_DEG = 10;

/** How far over the horizon, in fists at arm's length. */
export function heightInFists(elevation_deg: number): string {
  if (elevation_deg >= 75) return "almost overhead";
  const halves = Math.round((2 * elevation_deg) / FIST_DEG);
  if (halves < 1) return "just over the horizon";
  const whole = Math.floor(halves / 2);
  const half = halves % 2 === 1;
  const number = whole === 0 ? "half a" : half ? `${whole}½` : String(whole);
  return `${number} ${whole + (half ? 1 : 0) <= 1 ? "fist" : "fists"} over the horizon`;
}

/** Degrees within which one looks the right way. */
const STRAIGHT_DEG = 8;

/** How to turn: negative degrees are to the left. */
export function turnInWords(turn_deg: number): string {
  const by = Math.round(Math.abs(turn_deg) / 5) * 5;
  if (Math.abs(turn_deg) <= STRAIGHT_DEG) return "Straight ahead";
  if (by >= 170) return "Behind you";
  return `${by}° to the ${turn_deg < 0 ? "left" : "right"}`;
}
