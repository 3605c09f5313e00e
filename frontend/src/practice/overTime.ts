import type { FamilyNow } from "../api/practice";

export type Answered = FamilyNow["points"][number];

/** So many answers, the one looked at and those before it, say how it goes. */
export const LATEST = 5;

export interface Going {
  at: number;
  /** Mean cost of the latest answers up to then; 0 is best. */
  cost: number;
}

/** How it went after each answer, the first first. */
export function goingOver(points: readonly Answered[]): Going[] {
  const sorted = [...points].sort((a, b) => a.at.localeCompare(b.at));
  return sorted.map(({ at }, n) => {
    const latest = sorted.slice(Math.max(n + 1 - LATEST, 0), n + 1);
    return {
      at: Date.parse(at),
      cost: latest.reduce((sum, p) => sum + p.cost, 0) / latest.length,
    };
  });
}

const DAY_MS = 86_400_000;

/** Days to write below the chart: their beginning by the device's clock, no more than fit. */
export function daysBetween(from: number, to: number, most: number): number[] {
  const first = new Date(from).setHours(0, 0, 0, 0);
  const days = Math.max(Math.round((to - first) / DAY_MS), 1);
  const step = Math.ceil(days / Math.max(most - 1, 1));
  const found: number[] = [];
  for (let n = 0; n <= days; n += step) {
    const day = new Date(first);
    day.setDate(day.getDate() + n);
    if (day.getTime() <= to) found.push(day.getTime());
  }
  return found;
}
