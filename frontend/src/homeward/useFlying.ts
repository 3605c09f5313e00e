import { useCallback, useEffect, useState } from "react";
import { Flight, STEP_S, type Acts } from "./flight";
import { dropUnderWay, keepUnderWay, type UnderWay } from "./kept";
import type { Act, HomeFlight } from "./tables";

const EVERY_MS = 100;
/** A page that was hidden must not fly on unseen [own ms]. */
const LONGEST_MS = 400;

export interface Where {
  at_s: number;
  x: number;
  y: number;
  z: number;
}

/** What the pilot sees of a flight: as it is, or, while the video is gone, as it was last seen. */
export interface Seen extends Where {
  charge_pct: number;
  ground_ms: number;
}

interface State {
  flight: Flight;
  /** As the display shows it: as it is, or as it was last seen. */
  seen: Seen;
  acts: Acts;
  track: readonly Where[];
  /** Flight time that has passed and was not flown yet, less than a step [s]. */
  owed_s: number;
}

export interface Flying extends State {
  /** Since when the display does not change; null while it does. */
  old: number | null;
  /** How much faster than in the air it goes; 0 is a pause. */
  speed: number;
  setSpeed: (speed: number) => void;
  act: (act: Act) => void;
}

const seenOf = (f: Flight): Seen => ({
  at_s: f.at_s,
  x: f.x,
  y: f.y,
  z: f.z,
  charge_pct: f.charge_pct,
  ground_ms: f.ground_ms,
});

/** Flown up to where its pilot takes over, or to where it was left in the air. */
export function takenOver(home: HomeFlight, left?: { acts: Acts; at_s: number }) {
  const flying = new Flight(home, left?.acts);
  const track: Where[] = [];
  let seen = seenOf(flying);
  while (flying.at_s < (left?.at_s ?? home.begins_s) && !flying.ended) {
    flying.step();
    if (flying.at_s % 2 === 0) track.push(seenOf(flying));
    if (flying.picture) seen = seenOf(flying);
  }
  return { flying, track, seen };
}

/** A whole flight, every two seconds. */
export function trackOf(flight: HomeFlight, acts: Acts): { track: Where[]; flown: Flight } {
  const flown = new Flight(flight, acts);
  const track: Where[] = [seenOf(flown)];
  while (!flown.ended) {
    flown.step();
    if (flown.at_s % 2 === 0) track.push(seenOf(flown));
  }
  return { track: [...track, seenOf(flown)], flown };
}

/** So much later [s of flight]. */
function later(state: State, passed_s: number): State {
  const flight = state.flight.copy();
  const until = flight.at_s + Math.floor((state.owed_s + passed_s) / STEP_S) * STEP_S;
  const track = [...state.track];
  while (flight.at_s < until && !flight.ended) {
    flight.step();
    if (flight.at_s % 2 === 0) track.push(seenOf(flight));
  }
  const owed_s = state.owed_s + passed_s - (until - state.flight.at_s);
  return { ...state, flight, track, owed_s, seen: flight.picture ? seenOf(flight) : state.seen };
}

function acted(state: State, what: Act): State {
  if (state.flight.ended) return state;
  const now = { at_s: state.flight.at_s, act: what };
  return { ...state, acts: [...state.acts, now], flight: state.flight.copy().and(what) };
}

/** A flight in speeded-up time, by the device's own clock. */
export function useFlying(home: HomeFlight, first: number, left: UnderWay | null): Flying {
  const [state, setState] = useState<State>(() => {
    const { flying, track, seen } = takenOver(home, left ?? undefined);
    return { flight: flying, track, acts: left?.acts ?? [], seen, owed_s: 0 };
  });
  const [speed, setSpeed] = useState(first);
  const going = speed > 0 && state.flight.ended === null;
  useEffect(() => {
    if (!going) return;
    let last = performance.now();
    const timer = setInterval(() => {
      const now = performance.now();
      const passed_s = (Math.min(now - last, LONGEST_MS) / 1000) * speed;
      last = now;
      setState((s) => later(s, passed_s));
    }, EVERY_MS);
    return () => clearInterval(timer);
  }, [going, speed]);
  const { acts } = state;
  // Each second is enough, but never before what was done last.
  const full_s = Math.max(Math.floor(state.flight.at_s), acts.at(-1)?.at_s ?? 0);
  const ended = state.flight.ended !== null;
  useEffect(() => {
    if (ended) dropUnderWay();
    else keepUnderWay({ seed: home.seed, acts, at_s: full_s });
  }, [home.seed, acts, full_s, ended]);
  const act = useCallback((what: Act) => setState((s) => acted(s, what)), []);
  const old = state.flight.picture ? null : state.seen.at_s;
  return { ...state, old, speed, setSpeed, act };
}
