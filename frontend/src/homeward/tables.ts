import type { components } from "../api/schema";

export type HomeFlight = components["schemas"]["HomeFlight"];
export type Sheet = components["schemas"]["HomeSheet"];
export type Mishap = components["schemas"]["HomeFlight"]["mishap"];
export type Act = components["schemas"]["HomeAct"]["act"];
export type End = components["schemas"]["HomeLanded"]["end"];
export type Kind = Mishap["kind"];
export type Ground = components["schemas"]["HomeBand"]["ground"];

/** Index and share of a value in a table that begins at nought. */
function at(value: number, step: number, size: number): [number, number] {
  const scaled = Math.min(Math.max(value / step, 0), size - 1.001);
  const index = Math.trunc(scaled);
  return [index, scaled - index];
}

function lookUp(table: readonly number[], value: number, step: number): number {
  const [i, f] = at(value, step, table.length);
  return table[i]! + f * (table[i + 1]! - table[i]!);
}

/** Wind at a height [m/s towards east and north], and one standard deviation of its gusts. */
export const windAt = (s: Sheet, height_m: number): [number, number, number] => [
  lookUp(s.east_ms, height_m, s.height_step_m),
  lookUp(s.north_ms, height_m, s.height_step_m),
  lookUp(s.sigma_ms, height_m, s.height_step_m),
];

/** Power in level flight [W]. */
export const cruiseW = (s: Sheet, airspeed_ms: number) =>
  lookUp(s.power_w, airspeed_ms, s.airspeed_step_ms);

/** Loss behind what stands on the flight’s bearing [dB]. */
export function shadeDb(s: Sheet, distance_m: number, height_m: number): number {
  const [i, f] = at(distance_m, s.way_step_m, s.loss_db.length);
  const low = lookUp(s.loss_db[i]!, height_m, s.height_step_m);
  const high = lookUp(s.loss_db[i + 1]!, height_m, s.height_step_m);
  return low * (1 - f) + high * f;
}

/** What is on the ground at a distance of the home point. */
export const groundAt = (s: Sheet, distance_m: number): Ground =>
  s.bands.find((b) => b.from_m <= distance_m && distance_m < (b.to_m ?? Infinity))?.ground ??
  "open";

/** Distance of a point from something’s footprint [m]. */
export function apartM(x: number, y: number, { ends }: Sheet["stands"][number]): number {
  const [[ax, ay], [bx, by]] = ends as [[number, number], [number, number]];
  const [dx, dy] = [bx - ax, by - ay];
  const length2 = dx * dx + dy * dy;
  const along =
    length2 === 0 ? 0 : Math.min(Math.max(((x - ax) * dx + (y - ay) * dy) / length2, 0), 1);
  return hypot(x - ax - along * dx, y - ay - along * dy);
}

export const hypot = (x: number, y: number) => Math.sqrt(x * x + y * y);

/** How much of a mishap is there at a moment, 0 to 1. */
export function grown(m: Mishap, at_s: number): number {
  if (at_s < m.at_s) return 0;
  return m.grows_s <= 0 ? 1 : Math.min((at_s - m.at_s) / m.grows_s, 1);
}

/** Height up to which fog stands [m]. */
export const fogTopM = (m: Mishap, at_s: number) => Math.max(at_s - m.at_s, 0) * m.fog_rise_ms;

/** Whether somebody stands where it is to land. */
export const padTaken = (m: Mishap, at_s: number) => m.at_s <= at_s && at_s < m.at_s + m.pad_for_s;

/** Where the pilot is [m east and north of the home point]. */
export function deckAt(m: Mishap, at_s: number): [number, number] {
  const adrift = Math.max(at_s - m.at_s, 0);
  return [m.deck_ms[0] * adrift, m.deck_ms[1] * adrift];
}
