import type { Flight, FlightEntry, FlightTrack, Plan } from "../api/client";
import { bearing, written, type Units } from "../units/units";

/** Hours and minutes of seconds: "1 h 24 min". */
export function hours(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
}

/** Charge spent; null where it is not known. */
export function spent(entry: FlightEntry): number | null {
  const { charge_from_pct: from, charge_to_pct: to } = entry;
  return from == null || to == null ? null : from - to;
}

/** How much more was spent than was predicted, in points; null where it is not known. */
export function overPlan({ entry }: Flight): number | null {
  const { predicted_to_pct: predicted, charge_to_pct: to } = entry;
  return predicted == null || to == null ? null : predicted - to;
}

/** How far a track went, and how far was planned. */
export function againstPlan(facts: FlightTrack["facts"], plan: Plan | null, units: Units): string {
  const to = (metres: number, deg: number) =>
    `${written(metres, "length", units)} towards ${bearing(deg)}`;
  const flown = `Farthest ${to(facts.farthest_m, facts.farthest_bearing_deg)}`;
  if (!plan) return `${flown}.`;
  return `${flown}, planned ${to(plan.flight.distance_m, plan.flight.bearing_deg)}.`;
}

/** An entry to begin with when a flight is entered by hand. */
export function emptyEntry(now: Date): FlightEntry {
  return {
    started_at: now.toISOString(),
    place: "",
    aircraft: "",
    pack: "",
    aircraft_kit: null,
    pack_kit: null,
    latitude: null,
    longitude: null,
    seconds: null,
    charge_from_pct: null,
    charge_to_pct: null,
    predicted_to_pct: null,
    wind_predicted_ms: null,
    wind_met_ms: null,
    distance_m: null,
    height_m: null,
    verdict: "",
    word: "",
    marks: [],
    manual_return: false,
    wet: false,
    note: "",
  };
}
