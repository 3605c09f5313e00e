/** What a phone's own sensors tell: where its back points, how high a top is, where it stands. */

const RAD = Math.PI / 180;

/** Where the back of a phone points: bearing [°] and angle over the horizon [°]. */
export interface Pointing {
  bearing_deg: number;
  elevation_deg: number;
}

/** What a browser says of how the device is turned; angles in degrees, null where it does not know. */
export interface Turned {
  alpha: number | null;
  beta: number | null;
  gamma: number | null;
  /** Whether alpha is held against north. */
  absolute: boolean;
  webkitCompassHeading?: number;
}

/**
 * Where the back camera looks. The rotation is that of the W3C Device Orientation specification (Z-X'-Y'' from east,
 * north, up), of which its worked example takes the same axis; from memory. Null where the device knows no north.
 */
export function pointing(turned: Turned): Pointing | null {
  const { alpha, beta, gamma } = turned;
  if (beta === null || gamma === null) return null;
  const [x, y] = [beta * RAD, gamma * RAD];
  const up = -Math.cos(x) * Math.cos(y);
  const elevation_deg = Math.asin(Math.min(Math.max(up, -1), 1)) / RAD;
  const compass = turned.webkitCompassHeading;
  if (compass !== undefined) {
    // Told for the top edge; held upright, the back looks the same way.
    return { bearing_deg: ((compass % 360) + 360) % 360, elevation_deg };
  }
  if (alpha === null || !turned.absolute) return null;
  const z = alpha * RAD;
  const east = -Math.cos(z) * Math.sin(y) - Math.sin(z) * Math.sin(x) * Math.cos(y);
  const north = -Math.sin(z) * Math.sin(y) + Math.cos(z) * Math.sin(x) * Math.cos(y);
  return { bearing_deg: (Math.atan2(east, north) / RAD + 360) % 360, elevation_deg };
}

/** How far to turn to a bearing [°]: negative to the left. */
export const turnTo = (from_deg: number, to_deg: number) =>
  ((((to_deg - from_deg) % 360) + 540) % 360) - 180;

/** At which height a phone is held [m]: assumed. */
export const EYE_M = 1.5;
/** How true the tilt of a hand-held phone is [°]: assumed, no published number. */
export const TILT_PM_DEG = 1.5;

/** Aimed steeper than this, a degree is metres: one has to stand further away [°]. */
export const STEEPEST_DEG = 70;

/** The height of a top over the ground where one stands [m], and how far it may be off. */
export function topHeight(
  distance_m: number,
  elevation_deg: number,
): { height_m: number; pm_m: number } {
  const at = (deg: number) => EYE_M + distance_m * Math.tan(deg * RAD);
  const pm = (at(elevation_deg + TILT_PM_DEG) - at(elevation_deg - TILT_PM_DEG)) / 2;
  return { height_m: at(elevation_deg), pm_m: pm };
}

/** Whether one stands where a point is, as far as the position is true. */
export function isTheSpot(distance_m: number, accuracy_m: number): "here" | "unsure" | "elsewhere" {
  if (distance_m > 2 * accuracy_m && distance_m > 10) return "elsewhere";
  return accuracy_m <= 15 ? "here" : "unsure";
}
