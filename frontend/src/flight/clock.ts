import type { FlightCard } from "../api/client";

/**
 * The flight clock's rules, as the core has them, for where no server is in reach. Both are held
 * against one set of cases (tests/clock.cases.json).
 */

export type Call = "half" | "missed" | "soon" | "fast" | "turn_back" | "land";

export interface Reading {
  at_s: number;
  charge_pct: number;
}

export interface Moment {
  at_s: number;
  distance_m: number;
  readings: Reading[];
  turned_s: number | null;
  hopeful: boolean;
}

export interface ClockState {
  predicted_pct: number;
  low_pct: number;
  high_pct: number;
  charge_pct: number;
  factor: number;
  turn_back_pct: number | null;
  turn_back_s: number | null;
  land_by_s: number | null;
  landing_pct: number | null;
  calls: Call[];
}

const SOON_S = 60;
const BAND = 1.645;
const MOST_DOUBT = 0.25;
const JUMP_POINTS = 8;

const homePct = (card: FlightCard, distance: number) =>
  card.home!.fixed_pct + card.home!.pct_per_m * distance;
const homeSeconds = (card: FlightCard, distance: number) =>
  card.home!.fixed_s + card.home!.s_per_m * distance;

function homeRate(card: FlightCard, distance: number): number {
  if (!card.home) return card.out.at(-1)!.pct_per_s;
  return homePct(card, distance) / homeSeconds(card, distance);
}

/** Points that the plan has spent by a time; after turning back, those of the way home. */
export function drained(card: FlightCard, m: Moment, at: number): number {
  const upto = m.turned_s === null ? at : Math.min(at, m.turned_s);
  let spent = 0;
  let left = Math.max(upto, 0);
  card.out.forEach((step, n) => {
    const here = n === card.out.length - 1 ? left : Math.min(left, step.seconds);
    spent += here * step.pct_per_s;
    left -= here;
  });
  if (m.turned_s !== null && at > m.turned_s)
    spent += (at - m.turned_s) * homeRate(card, m.distance_m);
  return spent;
}

/** Readings without the slips: one that is higher than an earlier one is none. */
export function falling(readings: Reading[]): Reading[] {
  const kept: Reading[] = [];
  for (const r of readings)
    if (kept.length === 0 || r.charge_pct <= kept.at(-1)!.charge_pct) kept.push(r);
  return kept;
}

/** The most drain over the planned one that the readings allow; 1 at least. */
function greatestFactor(card: FlightCard, m: Moment): number {
  let square = 0;
  let product = 0;
  for (const r of m.readings) {
    const planned = drained(card, m, r.at_s);
    square += planned ** 2;
    product += planned * (card.charge_pct - r.charge_pct);
  }
  if (square <= 0) return 1;
  const off = (BAND * Math.max(card.reading_points, 0.5)) / Math.sqrt(square);
  return Math.max(product / square + Math.min(off, MOST_DOUBT), 1);
}

/** Measured drain over the planned one. */
export function measuredFactor(card: FlightCard, m: Moment): number {
  let top = card.spread > 0 ? 1 / card.spread ** 2 : 1e6;
  let bottom = top;
  for (const r of m.readings) {
    const planned = drained(card, m, r.at_s);
    const weight = 1 / Math.max(card.reading_points, 0.5) ** 2;
    top += planned * (card.charge_pct - r.charge_pct) * weight;
    bottom += planned ** 2 * weight;
  }
  return top / bottom;
}

/** Least and most points that nine flights in ten spend where so many were planned. */
function bandOf(card: FlightCard, planned: number): [number, number] {
  const off = BAND * Math.hypot(card.spread * planned, card.reading_points);
  return [Math.max(planned - off, 0), planned + off];
}

/** Whether the last reading is under the band, or jumped down from the one before. */
export function fallsFast(card: FlightCard, m: Moment): boolean {
  const last = m.readings.at(-1);
  if (!last) return false;
  const planned = drained(card, m, last.at_s);
  const low = card.charge_pct - bandOf(card, planned)[1];
  const before = m.readings.at(-2) ?? { at_s: 0, charge_pct: card.charge_pct };
  const expected = planned - drained(card, m, before.at_s);
  const jump = before.charge_pct - last.charge_pct - expected * (1 + BAND * card.spread);
  return last.charge_pct < low || jump > JUMP_POINTS;
}

function until(card: FlightCard, m: Moment, wanted: number): number {
  if (wanted <= 0) return 0;
  let at = m.at_s;
  let left = wanted;
  let begun = 0;
  for (const step of card.out.slice(0, -1)) {
    const ends = begun + step.seconds;
    if (at < ends) {
      const here = (ends - at) * step.pct_per_s;
      if (here >= left) return at + left / step.pct_per_s - m.at_s;
      left -= here;
      at = ends;
    }
    begun = ends;
  }
  return at + left / card.out.at(-1)!.pct_per_s - m.at_s;
}

/** What the clock shows at a moment. */
export function clockState(card: FlightCard, moment: Moment): ClockState {
  const m = { ...moment, readings: falling(moment.readings) };
  const planned = drained(card, m, m.at_s);
  const predicted = card.charge_pct - planned;
  const [least, most] = bandOf(card, planned);
  const factor = measuredFactor(card, m);
  const counted = m.hopeful ? factor : greatestFactor(card, m);
  const last = m.readings.at(-1);
  let charge = predicted;
  if (last) {
    const read = last.charge_pct - counted * (planned - drained(card, m, last.at_s));
    charge = m.hopeful ? read : Math.min(read, predicted);
  }
  charge = Math.max(charge, 0);

  let turnBack: number | null = null;
  let turnBackIn: number | null = null;
  let landBy: number | null = null;
  let landing: number | null = null;
  if (card.home) {
    const cost = counted * homePct(card, m.distance_m);
    turnBack = card.reserve_pct + cost;
    const home = homeSeconds(card, m.distance_m);
    if (m.turned_s === null) {
      turnBackIn = until(card, m, (charge - turnBack) / counted);
      landing = charge - cost;
      landBy = m.at_s + turnBackIn + home;
    } else {
      const left = Math.max(m.turned_s + home - m.at_s, 0);
      landing = charge - counted * left * homeRate(card, m.distance_m);
      landBy = m.turned_s + home;
    }
  }
  return {
    predicted_pct: Math.max(predicted, 0),
    low_pct: Math.max(card.charge_pct - most, 0),
    high_pct: Math.max(card.charge_pct - least, 0),
    charge_pct: charge,
    factor,
    turn_back_pct: turnBack,
    turn_back_s: turnBackIn,
    land_by_s: landBy,
    landing_pct: landing === null ? null : Math.max(landing, 0),
    calls: calls(card, m, charge, turnBack, turnBackIn),
  };
}

function calls(
  card: FlightCard,
  m: Moment,
  charge: number,
  turnBack: number | null,
  turnBackIn: number | null,
): Call[] {
  const late = m.at_s - (m.readings.at(-1)?.at_s ?? 0) > card.read_every_s;
  const out = turnBack !== null && turnBackIn !== null;
  const holds: [boolean, Call][] = [
    [out && charge <= card.charge_pct - (card.charge_pct - turnBack!) / 2, "half"],
    [late, "missed"],
    [out && turnBackIn! > 0 && turnBackIn! <= SOON_S, "soon"],
    [fallsFast(card, m), "fast"],
    [out && turnBackIn! <= 0, "turn_back"],
    [charge <= card.reserve_pct, "land"],
  ];
  return holds.filter(([is]) => is).map(([, call]) => call);
}
