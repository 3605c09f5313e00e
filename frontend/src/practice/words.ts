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

export const GOING: Record<NonNullable<FamilyNow["going"]>, string> = {
  steady: "steady",
  middling: "so so",
  weak: "weak",
};

export const CALIBRATION: Record<NonNullable<FamilyNow["calibration"]>, string> = {
  well: "as sure as you should be",
  roughly: "roughly as sure as you should be",
  too_sure: "surer than you should be",
};

export const TONES: Record<Marked["grade"], string> = {
  again: "var(--stay)",
  hard: "var(--care)",
  good: "var(--launch)",
  easy: "var(--launch)",
};
