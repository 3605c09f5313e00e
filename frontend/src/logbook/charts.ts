import type { LogbookSummary } from "../api/client";

type Point = LogbookSummary["points"][number];
const AROUND = 2;
const MOST_PACKS = 5;

function middle(values: number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const half = Math.floor(sorted.length / 2);
  return sorted.length % 2 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

/**
 * For each pack, planned over spent charge along its flights [%], each the middle of those around it, so
 * that one odd flight is no dip. The packs with the most flights; null where a pack has no more flights.
 */
export function healthAlong(points: Point[]): {
  flights: number[];
  packs: { pack: string; values: (number | null)[] }[];
} {
  const by = new Map<string, number[]>();
  for (const p of points) {
    if (p.planned_pct == null || p.spent_pct <= 0 || !p.pack) continue;
    by.set(p.pack, [...(by.get(p.pack) ?? []), (100 * p.planned_pct) / p.spent_pct]);
  }
  const packs = [...by]
    .filter(([, values]) => values.length > 1)
    .sort((a, b) => b[1].length - a[1].length)
    .slice(0, MOST_PACKS);
  const longest = Math.max(0, ...packs.map(([, values]) => values.length));
  return {
    flights: Array.from({ length: longest }, (_, n) => n + 1),
    packs: packs.map(([pack, values]) => ({
      pack,
      values: Array.from({ length: longest }, (_, n) =>
        n < values.length ? middle(values.slice(Math.max(0, n - AROUND), n + AROUND + 1)) : null,
      ),
    })),
  };
}

type Band = LogbookSummary["band"];

/** The most that nine flights in ten spend where so much was planned. */
function mostAt(band: Band, planned: number): number {
  const above = band.findIndex(([at]) => at! >= planned);
  if (above < 0) return band.at(-1)![2]!;
  if (above === 0) return band[0]![2]!;
  const [a, b] = [band[above - 1]!, band[above]!];
  return a[2]! + ((b[2]! - a[2]!) * (planned - a[0]!)) / (b[0]! - a[0]!);
}

/** How many flights spent more than the band allows for. */
export function outside(points: Point[], band: Band): number {
  return points.filter((p) => p.planned_pct != null && p.spent_pct > mostAt(band, p.planned_pct))
    .length;
}

/** The edges of the band as dots, with what was planned between them, up to an end. */
export function dotted(band: Band, end: number): { x: number; y: number; id: string }[] {
  const dots: { x: number; y: number; id: string }[] = [];
  band.slice(1).forEach(([x, least, most], n) => {
    const [x0, least0, most0] = band[n]!;
    for (const share of [0, 0.25, 0.5, 0.75])
      [
        [least0!, least!],
        [x0!, x!],
        [most0!, most!],
      ].forEach(([from, to], line) => {
        const at = { x: x0! + share * (x! - x0!), y: from! + share * (to! - from!) };
        if (at.x <= end && at.y <= end) dots.push({ ...at, id: `${n} ${share} ${line}` });
      });
  });
  return dots;
}
