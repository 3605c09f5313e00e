import type { Outing, Plan, Ready, Shot } from "../../api/client";
import { healthFor, withoutBattery } from "../../gear/battery";
import { destination, polar } from "../../map/local";

export type HandFlight = NonNullable<Outing["flights"]>[number];

/** The flights as they are planned, as flights set by hand: where rearranging begins. */
export function asSet(filming: NonNullable<Ready["filming"]>): HandFlight[] {
  return filming.flights.map(({ pack, shots }) => ({ pack, shots }));
}

/** A subject put one place earlier or later in its flight. */
export function shifted(
  flights: HandFlight[],
  flight: number,
  place: number,
  by: 1 | -1,
): HandFlight[] {
  return flights.map((f, i) => {
    const other = place + by;
    if (i !== flight || other < 0 || other >= f.shots.length) return f;
    const shots = [...f.shots];
    [shots[place], shots[other]] = [shots[other]!, shots[place]!];
    return { ...f, shots };
  });
}

/** A subject taken out of wherever it is; flights without one are gone. */
function without(flights: HandFlight[], shot: number): HandFlight[] {
  return flights.map((f) => ({ ...f, shots: f.shots.filter((s) => s !== shot) }));
}

const flown = (flights: HandFlight[]) => flights.filter((f) => f.shots.length > 0);

/** A subject put at the end of a flight. */
export function moved(flights: HandFlight[], shot: number, to: number): HandFlight[] {
  return flown(
    without(flights, shot).map((f, i) => (i === to ? { ...f, shots: [...f.shots, shot] } : f)),
  );
}

/** A subject in a flight of its own, after the others, on a pack. */
export function alone(flights: HandFlight[], shot: number, pack: number): HandFlight[] {
  return flown([...without(flights, shot), { pack, shots: [shot] }]);
}

/** A subject in no flight. */
export function dropped(flights: HandFlight[], shot: number): HandFlight[] {
  return flown(without(flights, shot));
}

/** A flight put before the one before it. */
export function sooner(flights: HandFlight[], flight: number): HandFlight[] {
  if (flight === 0) return flights;
  const found = [...flights];
  [found[flight - 1], found[flight]] = [found[flight]!, found[flight - 1]!];
  return found;
}

/** Bearing and distance of a subject from the take-off point. */
export function whereIs(plan: Plan, shot: Shot): { bearing: number; distance: number } {
  const here = { lat: plan.site.latitude, lon: plan.site.longitude };
  return polar(here, { lat: shot.latitude, lon: shot.longitude });
}

/** A subject at another bearing and distance. */
export function placed(plan: Plan, shot: Shot, bearing: number, distance: number): Shot {
  const here = { lat: plan.site.latitude, lon: plan.site.longitude };
  const { lat, lon } = destination(here, bearing, distance);
  return { ...shot, latitude: Number(lat.toFixed(7)), longitude: Number(lon.toFixed(7)) };
}

type PlannedFlight = NonNullable<Ready["filming"]>["flights"][number];

/** The plan as one of its planned flights: to its farthest subject, with its battery and its time at all of them. */
export function planOfFlight(
  plan: Plan,
  outing: Outing,
  planned: PlannedFlight,
  ready: Ready,
): Plan {
  const from = { lat: plan.site.latitude, lon: plan.site.longitude };
  const shots = planned.shots.map((shot) => outing.shots[shot]!);
  const seen = shots.map((s) => ({ ...s, ...polar(from, { lat: s.latitude, lon: s.longitude }) }));
  const farthest = seen.reduce((best, s) => (s.distance > best.distance ? s : best));
  const battery = ready.packs.find((p) => p.id === planned.pack);
  return {
    ...plan,
    // What it will be charged to is planned and not read yet: that is asked before the flight.
    evidence: withoutBattery(plan),
    flight: {
      ...plan.flight,
      bearing_deg: Math.round(farthest.bearing) % 360,
      distance_m: Math.round(farthest.distance),
      height_m: Math.max(...seen.map((s) => s.height_m)),
      station_min: seen.reduce((sum, s) => sum + s.minutes, 0),
    },
    pack: {
      ...plan.pack,
      label: planned.label,
      kit: planned.pack,
      charge_pct: Math.round(planned.charge_pct),
      health_pct: battery ? healthFor(battery, plan.aircraft) : plan.pack.health_pct,
      temperature_c: null,
    },
  };
}
