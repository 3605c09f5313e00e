import { Flight, type Acts, type Ended } from "./flight";
import type { Act, HomeFlight } from "./tables";

/** What else could have been done, and until when; as the core’s `outcome` has it. */

const THEN_S = 6;
const MOST_MOMENTS = 14;
const LEAST_APART_S = 6;
const LATER_S = 90;

export const ACTS = [
  "turn_back",
  "by_hand",
  "fast",
  "lower",
  "climb",
  "return_home",
  "wait",
  "land",
  "walk",
] as const satisfies readonly Act[];

const FOLLOW_UPS: readonly (readonly [number, Act][])[] = [
  [],
  [[0, "turn_back"]],
  [[0, "by_hand"]],
  [
    [0, "fast"],
    [0, "by_hand"],
  ],
  [
    [0, "fast"],
    [0, "by_hand"],
    [0, "lower"],
  ],
  [[0, "return_home"]],
  [[0, "land"]],
  [
    [0, "wait"],
    [LATER_S, "by_hand"],
  ],
  [
    [0, "wait"],
    [2 * LATER_S, "by_hand"],
  ],
];

/** What an end is worth: somebody hurt is worst, then a lost aircraft, then down elsewhere, then home. */
export function worth({ end, charge_pct, from_home_m }: Ended, reserve_pct: number): number {
  if (end === "hurt") return -100;
  if (end === "home") return 100 + Math.min(charge_pct - reserve_pct, 0);
  if (end === "away") return 50 - Math.min(0.01 * from_home_m, 25);
  return 0;
}

export interface Choice {
  at_s: number;
  act: Act;
  /** What it leads to by itself. */
  alone: Ended;
  /** What could best follow it, and what that comes to. */
  then: Acts;
  ended: Ended;
  worth: number;
}

export interface Review {
  own_worth: number;
  moments: readonly number[];
  choices: readonly Choice[];
  best: Choice | null;
  last_home_s: number | null;
  last_reserve_s: number | null;
}

/** Moments at which other choices are looked at [s]. */
export function moments(begins_s: number, ends_s: number): number[] {
  const count = Math.min(
    MOST_MOMENTS,
    Math.max(Math.trunc((ends_s - begins_s) / LEAST_APART_S), 1),
  );
  const apart = (ends_s - begins_s) / count;
  return Array.from({ length: count }, (_, n) => Math.round(begins_s + n * apart));
}

/** From when on there was something to decide [s]. */
export const decidesFrom = (flight: HomeFlight) =>
  Math.max(flight.begins_s, Math.ceil(flight.mishap.at_s));

/** The flight up to each moment, as its pilot flew it. */
function* upTo(flight: HomeFlight, acts: Acts, whens: readonly number[]) {
  const flying = new Flight(flight, acts);
  for (const at_s of whens) {
    while (flying.at_s < at_s && !flying.ended) flying.step();
    yield flying;
  }
}

/** Look at one moment after another, so that whoever draws is not kept waiting; the last gives the whole. */
export function* reviewing(
  flight: HomeFlight,
  acts: Acts,
  own: Ended,
): Generator<number, Review, void> {
  const whens = moments(decidesFrom(flight), own.at_s);
  const choices: Choice[] = [];
  let n = 0;
  for (const there of upTo(flight, acts, whens)) {
    const at_s = whens[n]!;
    for (const act of ACTS) choices.push(bestAfter(there, flight, at_s, act));
    n += 1;
    yield n / whens.length;
  }
  return told(flight, own, whens, choices);
}

function bestAfter(there: Flight, flight: HomeFlight, at_s: number, act: Act): Choice {
  let best: Choice | null = null; // the first that is tried is the choice alone
  for (const follow of FOLLOW_UPS) {
    const then = follow.map(([later, a]) => ({ at_s: at_s + THEN_S + later, act: a }));
    const ended = there
      .copy()
      .then([{ at_s, act }, ...then])
      .toTheEnd();
    const alone: Ended = best === null ? ended : best.alone;
    const choice: Choice = {
      at_s,
      act,
      alone,
      then,
      ended,
      worth: worth(ended, flight.reserve_pct),
    };
    if (best === null || choice.worth > best.worth) best = choice;
  }
  return best!;
}

function told(
  flight: HomeFlight,
  own: Ended,
  whens: readonly number[],
  choices: readonly Choice[],
): Review {
  const own_worth = worth(own, flight.reserve_pct);
  const best = choices.reduce<Choice | null>(
    (a, b) => (a === null || b.worth > a.worth ? b : a),
    null,
  );
  const home = choices.filter((c) => c.ended.end === "home");
  const last = (of: readonly Choice[]) => (of.length ? Math.max(...of.map((c) => c.at_s)) : null);
  return {
    own_worth,
    moments: whens,
    choices,
    best: best !== null && best.worth > own_worth ? best : null,
    last_home_s: last(home),
    last_reserve_s: last(home.filter((c) => c.ended.charge_pct >= flight.reserve_pct)),
  };
}
