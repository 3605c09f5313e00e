import type { Outing, Plan, Ready, Shot } from "../../api/client";
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
