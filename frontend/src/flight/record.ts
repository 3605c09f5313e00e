import type { Airborne, FlightEvent } from "../api/client";
import { drop, keep, kept, keptFrom, number } from "../shell/device";
import type { Call, Moment, Reading } from "./clock";
import type { Kept } from "./timekeeper";
import { cardInWind } from "./windMet";

/** The shape that flights are kept in; another one is another Lark's. */
const VERSION = 1;

/** A flight as the device keeps it: what it was planned with, what happened, what the server has of it. */
export interface FlightRecord {
  version: typeof VERSION;
  uid: string;
  session: number;
  decision: number | null;
  plan: Airborne;
  time: Kept;
  events: FlightEvent[];
  /** Numbers of events that the server has acknowledged. */
  sent: string[];
  /** Calls that hold now, so that each is called once when it begins. */
  calling: Call[];
  /** When the pilot said to have heard each of them [s since take-off]; a record of an older Lark has none. */
  heard?: Partial<Record<Call, number>>;
  /** The distance that counts [m]. */
  distance_m: number;
  hopeful: boolean;
}

const FLIGHTS = "lark.flight.";
const flightKey = (record: FlightRecord) => `${FLIGHTS}${record.session}.${record.uid}`;
const planKey = (session: number) => `lark.airborne.${session}`;

export const keepFlight = (record: FlightRecord) => keep(flightKey(record), record);
export const keptPlan = (session: number) => kept<Airborne>(planKey(session));
export const keepPlan = (plan: Airborne) => keep(planKey(plan.session_id), plan);

const isNumber = (value: unknown) => typeof value === "number" && Number.isFinite(value);
const isEvent = (value: unknown) => {
  const e = value as Partial<FlightEvent> | null;
  return typeof e?.uid === "string" && typeof e.kind === "string" && isNumber(e.at_s);
};

/** A flight as it was kept, by this Lark or the one before it, which wrote no version; null: it is none. */
export function readFlight(value: unknown): FlightRecord | null {
  const r = value as Partial<FlightRecord> | null;
  if (typeof r !== "object" || r === null) return null;
  const { version = VERSION, time, events, sent, calling } = r;
  const whole =
    version === VERSION &&
    typeof r.uid === "string" &&
    isNumber(r.session) &&
    typeof r.plan === "object" &&
    r.plan !== null &&
    isNumber(time?.elapsed_s) &&
    isNumber(time?.wall_ms) &&
    Array.isArray(events) &&
    events.length > 0 &&
    events.every(isEvent) &&
    Array.isArray(sent) &&
    Array.isArray(calling) &&
    isNumber(r.distance_m);
  return whole ? ({ ...r, version } as FlightRecord) : null;
}

/** The flights that are kept here, of one session or of all, without what cannot be read. */
export function keptFlights(session?: number): FlightRecord[] {
  return keptFrom<unknown>(session === undefined ? FLIGHTS : `${FLIGHTS}${session}.`)
    .map(readFlight)
    .filter((record) => record !== null);
}

/** How many flights are kept here that this Lark cannot read: damaged, or of a newer one. */
export const unreadFlights = (session: number) =>
  keptFrom<unknown>(`${FLIGHTS}${session}.`).filter((value) => readFlight(value) === null).length;

/** The flight of a session that is in the air, if there is one. */
export const inTheAir = (session: number) =>
  keptFlights(session).find((record) => !landedEvent(record)) ?? null;

/** Let go of a flight that the server has whole. */
export const forgetFlight = (record: FlightRecord) => drop(flightKey(record));

/** A flight as it is kept now: something else may have written to it. */
export const latest = (record: FlightRecord) => readFlight(kept(flightKey(record))) ?? record;

export function event(
  kind: FlightEvent["kind"],
  at_s: number,
  more: Partial<FlightEvent> = {},
): FlightEvent {
  return {
    uid: number(),
    kind,
    at_s,
    at: new Date().toISOString(),
    value: null,
    bearing_deg: null,
    text: "",
    ...more,
  };
}

/** Events without the slips that were taken back. */
export function standing(events: FlightEvent[]): FlightEvent[] {
  const withdrawn = new Set(events.filter((e) => e.kind === "withdrawn").map((e) => e.text));
  return events.filter((e) => e.kind !== "withdrawn" && !withdrawn.has(e.uid));
}

/** What of a flight its clock runs by; an observer has no more of it. */
export type Clocked = Pick<FlightRecord, "events" | "distance_m" | "hopeful"> & {
  plan: { card?: FlightRecord["plan"]["card"] };
};

export function readingsOf(record: Clocked): Reading[] {
  return standing(record.events)
    .filter((e) => e.kind === "reading")
    .map((e) => ({ at_s: e.at_s, charge_pct: e.value! }))
    .sort((a, b) => a.at_s - b.at_s);
}

export const turnedAt = (record: Clocked) =>
  standing(record.events).find((e) => e.kind === "turned")?.at_s ?? null;
export const landedEvent = (record: FlightRecord) =>
  standing(record.events).find((e) => e.kind === "landed");

/** The headwind on the way home that was met last [m/s]; null: not told. */
export const windMet = (record: Clocked) =>
  standing(record.events).findLast((e) => e.kind === "wind")?.value ?? null;

/** The flight card in the wind that was met; as planned while none was told. */
export function cardOf(record: Clocked): FlightRecord["plan"]["card"] {
  const card = record.plan.card ?? null;
  return card ? cardInWind(card, windMet(record)) : card;
}

/** Where a flight is, for the clock. */
export function momentOf(record: Clocked, at_s: number): Moment {
  return {
    at_s,
    distance_m: record.distance_m,
    readings: readingsOf(record),
    turned_s: turnedAt(record),
    hopeful: record.hopeful,
  };
}

/** What the server does not have yet, as far as is known here. */
export function unsent(record: FlightRecord): FlightEvent[] {
  const sent = new Set(record.sent);
  return record.events.filter((e) => !sent.has(e.uid));
}

/** A new flight. Its take-off charge is a reading that was taken on the ground. */
export function begun(plan: Airborne, charge_pct: number, time: Kept): FlightRecord {
  const card = plan.card && { ...plan.card, charge_pct };
  return {
    version: VERSION,
    uid: number(),
    session: plan.session_id,
    decision: plan.decision_id,
    plan: { ...plan, card },
    time,
    events: [event("takeoff", 0, { value: charge_pct })],
    sent: [],
    calling: [],
    distance_m: card?.distances_m[2] ?? 0,
    hopeful: false,
  };
}
