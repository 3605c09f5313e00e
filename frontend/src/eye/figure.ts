import type { Way } from "./staircase";

/** A small aircraft with four rotors, as it looks from the ground: which end is its nose can be told, if seen well. */

type Point3 = readonly [forward: number, right: number, up: number];

export interface Face {
  points: string;
  fill: string;
}

const YAW: Record<Way, number> = { away: 0, right: 90, towards: 180, left: -90 };

/** A box between two corners. Sides are shaded, so that its shape can be read. */
function box(
  [f0, r0, u0]: Point3,
  [f1, r1, u1]: Point3,
  tones: [string, string, string],
): [Point3[], string][] {
  const [top, side, under] = tones;
  const at = (f: number, r: number, u: number): Point3 => [f ? f1 : f0, r ? r1 : r0, u ? u1 : u0];
  const faces: [Point3[], string][] = [
    [[at(0, 0, 1), at(0, 1, 1), at(1, 1, 1), at(1, 0, 1)], top],
    [[at(0, 0, 0), at(0, 1, 0), at(1, 1, 0), at(1, 0, 0)], under],
    [[at(1, 0, 0), at(1, 1, 0), at(1, 1, 1), at(1, 0, 1)], side],
    [[at(0, 0, 0), at(0, 1, 0), at(0, 1, 1), at(0, 0, 1)], side],
    [[at(0, 1, 0), at(1, 1, 0), at(1, 1, 1), at(0, 1, 1)], side],
    [[at(0, 0, 0), at(1, 0, 0), at(1, 0, 1), at(0, 0, 1)], side],
  ];
  return faces;
}

/** A turning rotor: a thin disc that lets the sky through. */
function disc([f, r, u]: Point3, radius: number): [Point3[], string] {
  const rim = Array.from({ length: 16 }, (_, n): Point3 => {
    const at = (2 * Math.PI * n) / 16;
    return [f + radius * Math.cos(at), r + radius * Math.sin(at), u];
  });
  return [rim, "rgba(30, 34, 38, 0.55)"];
}

const SHELL: [string, string, string] = ["#8f959b", "#70777e", "#43494f"];
const DARK: [string, string, string] = ["#33373c", "#24272b", "#15171a"];
const LENS: [string, string, string] = ["#c9d2da", "#c9d2da", "#c9d2da"];
const TAIL: [string, string, string] = ["#d9d2c4", "#d9d2c4", "#d9d2c4"];

/** Its widest is 1: from the edge of one rotor to that of the other. Forward is the nose. */
const PARTS: [Point3[], string][] = [
  ...box([-0.3, -0.1, -0.05], [0.26, 0.1, 0.09], SHELL),
  // The camera hangs under the nose, the lights are at the tail, the front legs are the longer ones.
  ...box([0.22, -0.07, -0.15], [0.34, 0.07, 0.01], DARK),
  ...box([0.34, -0.035, -0.11], [0.35, 0.035, -0.04], LENS),
  ...box([-0.32, -0.09, 0.0], [-0.3, 0.09, 0.05], TAIL),
  ...[-1, 1].flatMap((side): [Point3[], string][] => {
    const from = (near: number, far: number): [number, number] =>
      side > 0 ? [near, far] : [-far, -near];
    const [leg, back, arm, rear] = [
      from(0.3, 0.34),
      from(0.22, 0.26),
      from(0.08, 0.34),
      from(0.08, 0.28),
    ];
    return [
      ...box([0.12, leg[0], -0.2], [0.18, leg[1], 0.04], DARK),
      ...box([-0.2, back[0], -0.1], [-0.15, back[1], 0.02], DARK),
      ...box([0.1, arm[0], 0], [0.2, arm[1], 0.05], SHELL),
      ...box([-0.22, rear[0], 0.02], [-0.13, rear[1], 0.07], SHELL),
      disc([0.15, side * 0.34, 0.1], 0.16),
      disc([-0.18, side * 0.28, 0.13], 0.16),
    ];
  }),
];

const rad = (deg: number) => (deg * Math.PI) / 180;

/**
 * Its faces as they are seen from the ground, the far ones first, in units of its size around 0. jitter_deg: how far
 * it is turned off the way; above_deg: how high over the horizon it stands.
 */
export function figure(way: Way, jitter_deg: number, above_deg: number): Face[] {
  const yaw = rad(YAW[way] + jitter_deg);
  const above = rad(above_deg);
  const seen = PARTS.map(([corners, fill]) => {
    const turned = corners.map(([f, r, u]) => {
      const right = r * Math.cos(yaw) + f * Math.sin(yaw);
      const off = f * Math.cos(yaw) - r * Math.sin(yaw);
      // Looked up at: what is further off appears lower, and its underside shows.
      const y = u * Math.cos(above) - off * Math.sin(above);
      const depth = off * Math.cos(above) + u * Math.sin(above);
      return { x: right, y, depth };
    });
    const depth = turned.reduce((sum, p) => sum + p.depth, 0) / turned.length;
    const points = turned.map(({ x, y }) => `${x.toFixed(4)},${(-y).toFixed(4)}`).join(" ");
    return { points, fill, depth };
  });
  return seen.sort((a, b) => b.depth - a.depth).map(({ points, fill }) => ({ points, fill }));
}
