import type { AnswerIn, FamilyNow, Marked, Room } from "../api/practice";

export const WORDS: Record<AnswerIn["word"], string> = {
  launch: "Launch",
  wait: "Wait",
  stand_down: "Stand down",
};

export const WHY: Record<Room["today"][number]["why"], string> = {
  due: "due again",
  weak: "weak",
  new: "new",
};

export const GRADES: Record<Marked["grade"], string> = {
  again: "Again soon",
  hard: "Not quite",
  good: "Good",
  easy: "Spot on",
};

const HOUR_MS = 3_600_000;

/** When something is due, from now on: "now", "in 3 h", "in 12 days". */
export function dueIn(due: string, now: Date): string {
  const hours = (Date.parse(due) - now.getTime()) / HOUR_MS;
  if (hours <= 0) return "now";
  if (hours < 1) return "within the hour";
  if (hours < 36) return `in ${Math.round(hours)} h`;
  const days = Math.round(hours / 24);
  return `in ${days} days`;
}

/** How a family goes, in a word: by what its latest answers cost. */
export function standingOf(family: FamilyNow): string {
  if (family.mean_cost === null) return "not begun";
  if (family.mean_cost < 0.5) return "steady";
  return family.mean_cost < 2.5 ? "so so" : "weak";
}

/** How well it is known how sure one may be: the mean Brier score of the latest answers. */
export function calibration(brier: number | null): string {
  if (brier === null) return "";
  if (brier <= 0.08) return "as sure as you should be";
  return brier <= 0.25 ? "roughly as sure as you should be" : "surer than you should be";
}
