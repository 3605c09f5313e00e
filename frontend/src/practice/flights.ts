import { client, isRefused, take } from "../api/client";
import { keep, kept } from "../shell/device";
import type { Rehearsal } from "./rehearsal";

const FLIGHTS = "lark.practice.flights";
/** So many flights are kept for where the server is out of reach: as many as cases of a kind. */
export const FLIGHTS_AHEAD = 20;

const ask = (seed: number, signal?: AbortSignal) =>
  take(client.GET("/api/practice/calls/{seed}", { params: { path: { seed } }, signal }));

/** Put flights on this device, in place of those that were here. */
export async function keepFlights(first: number, by = ask): Promise<void> {
  const found: Rehearsal[] = [];
  for (let n = 0; n < FLIGHTS_AHEAD; n += 1) found.push(await by(first + n));
  keep(FLIGHTS, found);
}

/** A flight to rehearse; out of reach, one of those that are here: the same for a number, or another in its place. */
export async function flightFor(seed: number, signal?: AbortSignal, by = ask): Promise<Rehearsal> {
  try {
    return await by(seed, signal);
  } catch (error) {
    const here = isRefused(error) ? [] : (kept<Rehearsal[]>(FLIGHTS) ?? []);
    if (here.length === 0) throw error;
    return here.find((flight) => flight.seed === seed) ?? here[seed % here.length]!;
  }
}
