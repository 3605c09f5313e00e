import type { Section } from "../api/client";

export interface Point {
  x: number;
  y: number;
}

/** A planned move as the section shows it: how far out it is flown, and how high. */
export interface MoveBand {
  name: string;
  from_m: number;
  to_m: number;
  lowest_m: number;
  highest_m: number;
}

type Line = "ground_m" | "surface_m" | "legal_m" | "line_m";

/** The known points of one of the section's lines. */
export function pointsOf(section: Section, key: Line): Point[] {
  return section.distance_m.flatMap((x, i) => {
    const y = section[key][i];
    return y == null ? [] : [{ x, y }];
  });
}

/** Stretches along the section where the ground is not known. */
export function gapsOf(section: Section): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = [];
  section.distance_m.forEach((x, i) => {
    if (section.ground_m[i] != null) return;
    const last = found.at(-1);
    if (last && x - last.to < 7.5) last.to = x;
    else found.push({ from: x, to: x });
  });
  return found;
}

/** The least clearance of a level way at a height over all that stands up to a distance, and over what. */
export function lowestGap(
  section: Section,
  upto: number,
  height: number,
): { metres: number; what: string; at: number } | null {
  const tops = section.standing
    .filter((s) => s.from_m <= upto)
    .map((s) => ({ metres: height - s.top_m, what: `the ${s.name || s.kind}`, at: s.from_m }));
  const soil = pointsOf(section, "ground_m")
    .filter((p) => p.x <= upto && p.x > 0)
    .map((p) => ({ metres: height - p.y, what: "the ground", at: p.x }));
  const over = pointsOf(section, "surface_m")
    .filter((p) => p.x <= upto)
    .map((p) => ({
      metres: height - p.y,
      what: "the trees or roofs of the surface model",
      at: p.x,
    }));
  const all = [...tops, ...over, ...soil];
  return all.length === 0 ? null : all.reduce((a, b) => (b.metres < a.metres ? b : a));
}

/** The lowest ground along the way, above the take-off point; 0 at most. */
export function fallsBelow(section: Section, upto: number): number {
  return Math.min(
    0,
    ...pointsOf(section, "ground_m")
      .filter((p) => p.x <= upto)
      .map((p) => p.y),
  );
}
