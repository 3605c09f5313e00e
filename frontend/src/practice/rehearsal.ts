import type { components } from "../api/schema";
import { clockState, drained, type Call, type ClockState, type Reading } from "../flight/clock";

export type Rehearsal = components["schemas"]["RehearsalOut"];

/** What answers an alert: the first of these. The others are for the ear alone. */
export const ANSWERS: Partial<Record<Call, readonly Act[]>> = {
  missed: ["read", "turn", "land"],
  fast: ["turn", "land"],
  turn_back: ["turn", "land"],
  land: ["land"],
};

export type Act = "read" | "turn" | "land";

/** An alert that wanted an answer: when it began and was answered, in the pilot's own seconds. */
export interface Heard {
  call: Call;
  began_s: number;
  /** null: never. */
  answered_s: number | null;
}

/** A flight under way: times are flight time [s], but for those of alerts. */
export interface Flying {
  at_s: number;
  readings: Reading[];
  turned_s: number | null;
  /** Coming straight down, since when. */
  landing_s: number | null;
  heard: Heard[];
  /** How it ended: home, down where it was, or down by itself. */
  ended: "home" | "here" | "forced" | null;
}

export const START: Flying = {
  at_s: 0,
  readings: [],
  turned_s: null,
  landing_s: null,
  heard: [],
  ended: null,
};

/** Answered within so long it is quick, and within so long late [own s]. */
const QUICK_S = 5;
const LATE_S = 10;

/** So long it takes straight down [s of flight]. */
const DOWN_S = 40;

const moment = ({ distance_m }: Rehearsal, f: Flying) => ({
  at_s: f.at_s,
  distance_m,
  readings: f.readings,
  turned_s: f.turned_s,
  hopeful: false,
});

/** The charge that is really left [%]. */
export function truth(r: Rehearsal, f: Flying): number {
  const dropped = r.drop_at_s !== null && f.at_s >= r.drop_at_s ? r.drop_points : 0;
  const spent = r.factor * drained(r.card, moment(r, f), f.at_s);
  return Math.max(r.card.charge_pct - spent - dropped, 0);
}

/** What the flight clock shows: it knows the card and what was read, no more. */
export const clockOf = (r: Rehearsal, f: Flying): ClockState => clockState(r.card, moment(r, f));

/** When it is home, turned back [s]. */
const homeAt = (r: Rehearsal, turned_s: number) =>
  turned_s + r.card.home!.fixed_s + r.card.home!.s_per_m * r.distance_m;

/** The alerts that wait for an answer now; coming home or down, those that turning answers are answered. */
export function waiting(f: Flying, calls: readonly Call[]): Call[] {
  return calls.filter((call) => {
    if (!ANSWERS[call] || f.landing_s !== null) return false;
    return f.turned_s === null || call === "land" || call === "missed";
  });
}

/** A little later: own_s is the pilot's own time since the start [s]. */
export function step(r: Rehearsal, f: Flying, own_s: number): Flying {
  if (f.ended) return f;
  const at_s = own_s * r.speed;
  const next = { ...f, at_s };
  const open = waiting(next, clockOf(r, next).calls);
  const known = new Set(f.heard.filter((h) => h.answered_s === null).map((h) => h.call));
  const heard = [
    // What no longer holds, unanswered, went away by itself: it is not counted against anybody.
    ...f.heard.filter((h) => h.answered_s !== null || open.includes(h.call)),
    ...open
      .filter((call) => !known.has(call))
      .map((call) => ({ call, began_s: own_s, answered_s: null })),
  ];
  const ended = (() => {
    if (truth(r, next) <= r.card.forced_pct) return "forced";
    if (f.landing_s !== null && at_s >= f.landing_s + DOWN_S) return "here";
    if (f.turned_s !== null && at_s >= homeAt(r, f.turned_s)) return "home";
    return null;
  })();
  // What began when it was all but over could not be answered any more.
  const counted = ended
    ? heard.filter((h) => h.answered_s !== null || own_s - h.began_s > LATE_S)
    : heard;
  return { ...next, heard: counted, ended };
}

/** The pilot does something: it answers what it answers. */
export function act(r: Rehearsal, f: Flying, what: Act, own_s: number): Flying {
  if (f.ended) return f;
  const now = step(r, f, own_s);
  const heard = now.heard.map((h) =>
    h.answered_s === null && ANSWERS[h.call]!.includes(what) ? { ...h, answered_s: own_s } : h,
  );
  const done = { ...now, heard };
  if (what === "read")
    return {
      ...done,
      readings: [...now.readings, { at_s: now.at_s, charge_pct: Math.round(truth(r, now)) }],
    };
  if (what === "turn") return { ...done, turned_s: now.turned_s ?? now.at_s };
  return { ...done, landing_s: now.landing_s ?? now.at_s };
}

export type Mark = "quick" | "late" | "missed";

/** How an alert was answered, in the pilot's own time. The limits are Lark's own. */
export function markOf({ began_s, answered_s }: Heard): Mark {
  const took = answered_s === null ? Infinity : answered_s - began_s;
  return took <= QUICK_S ? "quick" : took <= LATE_S ? "late" : "missed";
}

/** What the flight came to: whether it kept its reserve, and its end was one that was wanted. */
export function verdictOf(r: Rehearsal, f: Flying): "good" | "reserve" | "early" | "lost" {
  if (f.ended === "forced") return "lost";
  const asked = f.heard.some((h) => h.call !== "missed");
  if (truth(r, f) < r.card.reserve_pct) return "reserve";
  return asked || f.ended === "home" ? "good" : "early";
}
