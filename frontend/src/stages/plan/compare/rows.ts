import type { Result } from "../../../api/client";

/** Checks in which the variants differ or do not pass, the longest bar of any first. */
export function rows(results: Result[]): string[] {
  const found = new Map<
    string,
    { worst: number; differs: boolean; open: boolean; uses: number[] }
  >();
  for (const result of results) {
    for (const c of result.checks) {
      const known = found.get(c.id) ?? { worst: 0, differs: false, open: false, uses: [] };
      known.uses.push(c.used ?? -1);
      known.worst = Math.max(known.worst, c.used ?? 0);
      known.open ||= c.status !== "pass";
      known.differs = Math.max(...known.uses) - Math.min(...known.uses) > 0.005;
      found.set(c.id, known);
    }
  }
  return [...found.entries()]
    .filter(([, k]) => k.differs || k.open)
    .sort(([, a], [, b]) => b.worst - a.worst)
    .map(([id]) => id);
}
