import type { DrillCard, DrillsNow } from "../api/client";
import { ago, day } from "../shell/time";
import type { Units } from "../units/units";
import { written } from "../units/units";

export type Standing = DrillsNow["drills"][number];

/** How a drill stands: when it was done well, and when it is due again. */
export function standingWords({ last, due_at, tries }: Standing, now: Date): string {
  if (last === null) return tries === 0 ? "not done yet" : "tried, not done well yet";
  const due = Date.parse(due_at!) <= now.getTime();
  return `done well ${ago(new Date(last), now)}, ${due ? "due again" : `due again ${day(due_at!)}`}`;
}

/** The same as a sentence of its own. */
export function standingSentence(standing: Standing, now: Date): string {
  const words = standingWords(standing, now);
  return `${words[0]!.toUpperCase()}${words.slice(1)}.`;
}

/** Space, height, wind and time of a drill, in the pilot's units. */
export function needsWords(card: DrillCard, units: Units): string {
  const minutes = `about ${card.minutes} min`;
  if (card.height_m === null || card.wind_ms === null) return `Nothing flies; ${minutes}.`;
  const length = (m: number) => written(m, "length", units);
  return (
    `${length(card.out_m)} out, ${length(card.height_m)} high, ${length(card.room_m)} clear all round, ` +
    `wind up to ${written(card.wind_ms, "speed", units)}, ${minutes}.`
  );
}

/** Why a drill may or may not start, in a line: the point that decides. */
export function decidingWords(card: DrillCard): string {
  const point = card.points.find((p) => p.status === card.status);
  return card.status === "pass" || !point ? "Nothing stands in its way." : point.sentence;
}

const two = (n: number) => String(n).padStart(2, "0");

/** So long it has been going: "3:05". */
export function goingFor(since: string, now: Date): string {
  const s = Math.max(Math.floor((now.getTime() - Date.parse(since)) / 1000), 0);
  return `${Math.floor(s / 60)}:${two(s % 60)}`;
}

/** Where the course for first flights is. */
export function courseWords(now: DrillsNow): string {
  const { step, steps } = now.course;
  return step === null
    ? "The course for first flights is done."
    : `First flights, session ${step} of ${steps}.`;
}
