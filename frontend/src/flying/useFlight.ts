import { useCallback, useEffect, useRef, useState } from "react";
import type { Airborne, FlightEvent } from "../api/client";
import { AGAIN_S, allowTones, keepAwake, sound } from "./calling";
import { clockState, type Call, type ClockState } from "./clock";
import {
  begun,
  cardOf,
  event,
  inTheAir,
  keepFlight,
  latest,
  momentOf,
  type FlightRecord,
} from "./record";
import { sendUp } from "./sending";
import { Timekeeper } from "./timekeeper";

const TICK_MS = 250;
const KEEP_MS = 2_000;

export interface InFlight {
  record: FlightRecord;
  at_s: number;
  state: ClockState | null;
  jumped: Timekeeper["jumped"];
  /** Whether this device refuses to keep anything, so that a reload would lose the flight. */
  forgetful: boolean;
  put: (kind: FlightEvent["kind"], more?: Partial<FlightEvent>) => void;
  setDistance: (distance_m: number) => void;
  setHopeful: (hopeful: boolean) => void;
}

/** A session's flight on this device: its clock, its calls, what happens in it. */
export function useFlight(sessionId: number): {
  flight: InFlight | null;
  begin: (plan: Airborne, charge_pct: number) => void;
} {
  const [record, setRecord] = useState<FlightRecord | null>(() => inTheAir(sessionId));
  const [keeper, setKeeper] = useState<Timekeeper | null>(() =>
    record === null ? null : new Timekeeper(record.time),
  );
  const [at, setAt] = useState(() => keeper?.now() ?? 0);
  const [forgetful, setForgetful] = useState(false);
  const made = useRef<Partial<Record<Call, number>>>({});
  const current = useRef(record);

  const keep = useCallback((next: FlightRecord) => {
    // What was sent is written by the outbox; the rest is this page's own.
    const merged = { ...next, sent: latest(next).sent };
    current.current = merged;
    setForgetful(!keepFlight(merged));
    setRecord(merged);
  }, []);

  const begin = useCallback(
    (plan: Airborne, charge_pct: number) => {
      // A second tap begins no second flight.
      if (current.current) return;
      allowTones();
      const time = Timekeeper.begin();
      made.current = {};
      setKeeper(time);
      setAt(0);
      keep(begun(plan, charge_pct, time.remember()));
      void sendUp();
    },
    [keep],
  );

  const put = useCallback(
    (kind: FlightEvent["kind"], more: Partial<FlightEvent> = {}) => {
      const now = current.current;
      if (!now || !keeper) return;
      allowTones();
      const next = { ...now, events: [...now.events, event(kind, keeper.now(), more)] };
      keep({ ...next, time: keeper.remember() });
      if (kind === "landed") {
        current.current = null;
        setRecord(null);
        setKeeper(null);
      }
      void sendUp();
    },
    [keep, keeper],
  );

  useEffect(() => {
    if (!keeper) return;
    let kept = 0;
    const tick = () => {
      const now = current.current;
      if (!now) return;
      const at_s = keeper.now();
      setAt(at_s);
      const card = cardOf(now);
      const holds = card ? clockState(card, momentOf(now, at_s)).calls : [];
      const fresh = holds.filter((call) => !now.calling.includes(call));
      for (const call of holds) {
        const again = AGAIN_S[call];
        const before = made.current[call];
        if (fresh.includes(call) || (again && before !== undefined && at_s - before >= again)) {
          made.current[call] = at_s;
          sound(call);
        } else if (before === undefined) made.current[call] = at_s;
      }
      const changed = fresh.length > 0 || holds.length !== now.calling.length;
      if (changed || at_s * 1000 - kept > KEEP_MS) {
        kept = at_s * 1000;
        const calls = fresh.map((call) => event("call", at_s, { text: call }));
        keep({
          ...now,
          calling: holds,
          events: [...now.events, ...calls],
          time: keeper.remember(),
        });
        if (calls.length > 0) void sendUp();
      }
    };
    tick();
    const timer = setInterval(tick, TICK_MS);
    document.addEventListener("visibilitychange", tick);
    const release = keepAwake();
    return () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", tick);
      release();
    };
  }, [keeper, keep]);

  if (!record || !keeper) return { flight: null, begin };
  const card = cardOf(record);
  const setDistance = (distance_m: number) => {
    keep({ ...record, distance_m });
    put("distance", { value: distance_m });
  };
  return {
    begin,
    flight: {
      record,
      at_s: at,
      state: card ? clockState(card, momentOf(record, at)) : null,
      jumped: keeper.jumped,
      forgetful,
      put,
      setDistance,
      setHopeful: (hopeful) => keep({ ...record, hopeful }),
    },
  };
}
