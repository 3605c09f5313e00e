/** The staircase of the eye as the core has it, so that a look needs no server: held against its cases. */

export type Way = "away" | "towards" | "left" | "right";
export const WAYS: readonly Way[] = ["away", "towards", "left", "right"];

export interface Said {
  distance_m: number;
  way: Way;
  said: Way;
}

const FIRST_STEP = 0.28;
const STEP = 0.08;
/** Three in four are right where it comes to rest. */
const BACK = 3;
export const NEAREST_M = 5;
/** The fewest pixels that an aircraft takes to be drawn: then the screen ends it, and not the eye. */
export const DRAWN_PX = 8;
/** A bank card [mm]: ID-1 of ISO/IEC 7810, from memory. */
export const CARD_MM = { long: 85.6, short: 53.98 };

/** Distance [m] up to which the attitude of an aircraft of a size [m] can be read, by the formula. */
export const attitudeM = (size_m: number) => 327 * size_m + 20;

/** How long an aircraft is drawn [mm], so that from the viewing distance [mm] it is as small as at a distance [m]. */
export const drawnMm = (size_m: number, distance_m: number, viewing_mm: number) =>
  (size_m * viewing_mm) / distance_m;

/** The angle that something of a length takes at a distance, both in one unit, in arc minutes. */
export const arcMinutes = (length: number, distance: number) =>
  ((2 * Math.atan(length / (2 * distance)) * 180) / Math.PI) * 60;

/** The farthest that a screen of so many of its own pixels a millimetre can draw [m], from a viewing distance [mm]. */
export const farthestM = (size_m: number, viewing_mm: number, px_per_mm: number) =>
  (size_m * viewing_mm * px_per_mm) / DRAWN_PX;

/** The viewing distance [mm] from which a screen can draw an aircraft as far away as wanted [m]. */
export const viewingFor = (size_m: number, far_m: number, px_per_mm: number) =>
  (far_m * DRAWN_PX) / (size_m * px_per_mm);

/** The distance [m] of the next trial after some answers. */
export function nextDistance(right: readonly boolean[], size_m: number, most_m: number): number {
  const within = (d: number) => Math.min(Math.max(d, NEAREST_M), most_m);
  let distance = attitudeM(size_m) / 2;
  let step = FIRST_STEP;
  for (const was of right) {
    if (!was) step = STEP;
    distance = within(distance * Math.exp(was ? step : -BACK * step));
  }
  return within(distance);
}

/**
 * Four numbers from 0 to 1 for a trial of a look, the same whenever they are asked for: a small mixing generator
 * (mulberry32), started from the look's number. Good enough that nobody can tell what comes.
 */
export function chances(uid: string, trial: number): [number, number, number, number] {
  let state = (parseInt(uid.slice(0, 8), 16) ^ Math.imul(trial + 1, 0x9e3779b1)) >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
  return [next(), next(), next(), next()];
}
