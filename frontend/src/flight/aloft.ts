import type { Airborne, FlightEvent } from "../api/client";
import { AGAIN_S, allowTones, call as make, HEARD_S, keepAwake } from "./calling";
import { clockState, type Call } from "./clock";
import {
  begun,
  cardOf,
  event,
  inTheAir,
  keepFlight,
  keptFlights,
  landedEvent,
  latest,
  momentOf,
  type FlightRecord,
} from "./record";
import { sendUp } from "./sending";
import { Timekeeper } from "./timekeeper";

const TICK_MS = 250;
const KEEP_MS = 2_000;

/** A flight in the air at this moment. */
export interface Aloft {
  record: FlightRecord;
  at_s: number;
  jumped: Timekeeper["jumped"];
  /** Whether this device refuses to keep anything, so that a reload would lose the flight. */
  forgetful: boolean;
}

/**
 * The clock of a session's flight on this device. It belongs to no page: wherever in Lark the pilot is, it goes on,
 * calls, and keeps what happens.
 */
class FlightClock {
  private flight: Aloft | null = null;
  private keeper: Timekeeper | null = null;
  private made: Partial<Record<Call, number>> = {};
  private keptAt = 0;
  private stop: (() => void) | null = null;

  constructor(
    session: number,
    private readonly tell: () => void,
  ) {
    const record = inTheAir(session);
    if (record) this.take(record, new Timekeeper(record.time));
  }

  readonly snapshot = () => this.flight;

  readonly begin = (plan: Airborne, charge_pct: number) => {
    // A second tap begins no second flight.
    if (this.flight) return;
    allowTones();
    const keeper = Timekeeper.begin();
    this.made = {};
    this.take(begun(plan, charge_pct, keeper.remember()), keeper);
    this.keep(this.flight!.record);
    void sendUp();
  };

  readonly put = (kind: FlightEvent["kind"], more: Partial<FlightEvent> = {}) => {
    if (!this.flight || !this.keeper) return;
    allowTones();
    const { record } = this.flight;
    const events = [...record.events, event(kind, this.keeper.now(), more)];
    this.keep({ ...record, events, time: this.keeper.remember() });
    if (kind === "landed") this.letGo();
    void sendUp();
  };

  /** The pilot has heard the calls that hold: they are quiet for a minute, unless another one comes. */
  readonly hear = () => {
    if (!this.flight || !this.keeper) return;
    allowTones();
    const at_s = this.keeper.now();
    const { record } = this.flight;
    this.keep({ ...record, heard: Object.fromEntries(record.calling.map((c) => [c, at_s])) });
  };

  readonly change = (part: Partial<Pick<FlightRecord, "distance_m" | "hopeful">>) => {
    if (this.flight) this.keep({ ...this.flight.record, ...part });
  };

  private take(record: FlightRecord, keeper: Timekeeper) {
    this.keeper = keeper;
    this.flight = { record, at_s: keeper.now(), jumped: keeper.jumped, forgetful: false };
    const timer = setInterval(this.tick, TICK_MS);
    document.addEventListener("visibilitychange", this.tick);
    const release = keepAwake();
    this.stop = () => {
      clearInterval(timer);
      document.removeEventListener("visibilitychange", this.tick);
      release();
    };
  }

  private letGo() {
    this.stop?.();
    this.stop = null;
    this.keeper = null;
    this.flight = null;
    this.tell();
  }

  private keep(next: FlightRecord) {
    // What was sent is written by the outbox; the rest is the clock's own.
    const record = { ...next, sent: latest(next).sent };
    this.flight = { ...this.flight!, record, forgetful: !keepFlight(record) };
    this.tell();
  }

  private readonly tick = () => {
    if (!this.flight || !this.keeper) return;
    const at_s = this.keeper.now();
    const { record } = this.flight;
    this.flight = { ...this.flight, at_s, jumped: this.keeper.jumped };
    const card = cardOf(record);
    const holds = card ? clockState(card, momentOf(record, at_s)).calls : [];
    const fresh = holds.filter((call) => !record.calling.includes(call));
    for (const call of holds) {
      const again = AGAIN_S[call];
      const heard = record.heard?.[call];
      if (heard !== undefined && at_s - heard < HEARD_S) continue;
      const before = this.made[call];
      if (fresh.includes(call) || (again && before !== undefined && at_s - before >= again)) {
        this.made[call] = at_s;
        make(call);
      } else if (before === undefined) this.made[call] = at_s;
    }
    const changed = fresh.length > 0 || holds.length !== record.calling.length;
    if (changed || at_s * 1000 - this.keptAt > KEEP_MS) {
      this.keptAt = at_s * 1000;
      const calls = fresh.map((call) => event("call", at_s, { text: call }));
      const events = [...record.events, ...calls];
      // A call that came to an end and comes again is another one.
      const heard = Object.fromEntries(
        Object.entries(record.heard ?? {}).filter(([call]) => holds.includes(call as Call)),
      );
      this.keep({ ...record, calling: holds, heard, events, time: this.keeper.remember() });
      if (calls.length > 0) void sendUp();
    } else this.tell();
  };
}

const clocks = new Map<number, FlightClock>();
const listeners = new Set<() => void>();

function tell() {
  for (const listener of listeners) listener();
}

/** The flight clock of a session. */
export function clockOf(session: number): FlightClock {
  let clock = clocks.get(session);
  if (!clock) {
    clock = new FlightClock(session, tell);
    clocks.set(session, clock);
  }
  return clock;
}

/** Whatever clock goes on or stops. */
export function watchAloft(listener: () => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** The flight in the air on this device, whatever page is shown; also one that was there before a reload. */
export function anyAloft(): Aloft | null {
  for (const clock of clocks.values()) {
    const flight = clock.snapshot();
    if (flight) return flight;
  }
  return null;
}

/** Let the clocks of flights that were in the air when this window was opened go on. */
export function goOn() {
  for (const record of keptFlights()) if (!landedEvent(record)) clockOf(record.session);
  tell();
}
