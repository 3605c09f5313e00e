import { useSyncExternalStore } from "react";
import type { Airborne, FlightEvent } from "../api/client";
import { clockOf, watchAloft, type Aloft } from "./aloft";
import { clockState, type ClockState } from "./clock";
import { cardOf, momentOf } from "./record";

export interface InFlight extends Aloft {
  state: ClockState | null;
  put: (kind: FlightEvent["kind"], more?: Partial<FlightEvent>) => void;
  /** The calls that hold were heard. */
  hear: () => void;
  setDistance: (distance_m: number) => void;
  setHopeful: (hopeful: boolean) => void;
}

/** A session's flight on this device: its clock, its calls, what happens in it. */
export function useFlight(sessionId: number): {
  flight: InFlight | null;
  begin: (plan: Airborne, charge_pct: number) => void;
} {
  const clock = clockOf(sessionId);
  const aloft = useSyncExternalStore(watchAloft, clock.snapshot);
  const { begin, put, change, hear } = clock;
  if (!aloft) return { flight: null, begin };
  const card = cardOf(aloft.record);
  return {
    begin,
    flight: {
      ...aloft,
      state: card ? clockState(card, momentOf(aloft.record, aloft.at_s)) : null,
      put,
      hear,
      setDistance: (distance_m) => {
        change({ distance_m });
        put("distance", { value: distance_m });
      },
      setHopeful: (hopeful) => change({ hopeful }),
    },
  };
}
