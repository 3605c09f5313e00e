import fc from "fast-check";
import { beforeEach, describe, expect, test, vi } from "vitest";
import { Problem, type Airborne, type FlightCard, type FlightEvent } from "../src/api/client";
import { clockState, type Moment } from "../src/flight/clock";
import {
  begun,
  event,
  inTheAir,
  keepFlight,
  keptFlights,
  momentOf,
  readFlight,
  readingsOf,
  standing,
  unreadFlights,
  unsent,
} from "../src/flight/record";
import { sendUp, type Put } from "../src/flight/sending";
import { Timekeeper, type Clocks } from "../src/flight/timekeeper";
import cases from "./clock.cases.json";
import { Store } from "./store";

describe("the clock", () => {
  test("says what the core says, case by case", () => {
    expect(cases.cases.length).toBeGreaterThan(200);
    for (const { card, moment, state } of cases.cases) {
      const found = clockState(cases.cards[card] as FlightCard, moment as Moment);
      expect(found.calls).toEqual(state.calls);
      for (const key of Object.keys(state) as (keyof typeof found)[]) {
        const [a, b] = [found[key], (state as typeof found)[key]];
        if (typeof b === "number") expect(a).toBeCloseTo(b, 6);
        else expect(a).toEqual(b);
      }
    }
  });
});

function clocks(): Clocks & { wall_ms: number; steady_ms: number } {
  const made = {
    wall_ms: 1_800_000_000_000,
    steady_ms: 5_000,
    wall: () => made.wall_ms,
    steady: () => made.steady_ms,
  };
  return made;
}

const PLAN = {
  session_id: 7,
  decision_id: 3,
  card: { ...cases.cards[0], charge_pct: 100 },
} as unknown as Airborne;

describe("a flight that is kept", () => {
  beforeEach(() => vi.stubGlobal("localStorage", new Store()));

  test("is read as it was kept, also by a Lark that wrote no version", () => {
    const record = begun(PLAN, 100, { elapsed_s: 0, wall_ms: 0 });
    expect(readFlight(JSON.parse(JSON.stringify(record)))).toEqual(record);
    expect(readFlight({ ...record, version: undefined })).toEqual(record);
  });

  test("breaks nothing when it is damaged or of a newer Lark, and is told of", () => {
    const good = begun(PLAN, 100, { elapsed_s: 0, wall_ms: 0 });
    keepFlight(good);
    const bad = [
      { ...good, uid: "a", version: 99 },
      { ...good, uid: "b", events: [{ uid: 1 }] },
      { ...good, uid: "c", time: { elapsed_s: "x" } },
      { ...good, uid: "d", plan: null },
    ];
    for (const [n, record] of bad.entries())
      localStorage.setItem(`lark.flight.${good.session}.${n}`, JSON.stringify(record));
    expect(keptFlights().map((r) => r.uid)).toEqual([good.uid]);
    expect(unreadFlights(good.session)).toBe(4);
  });
});

describe("time in the air", () => {
  test("goes on over a reload", () => {
    const c = clocks();
    const before = Timekeeper.begin(c);
    c.wall_ms += 61_000;
    c.steady_ms += 61_000;
    expect(before.now()).toBeCloseTo(61);
    const kept = before.remember();
    c.wall_ms += 20_000; // the page was away
    c.steady_ms = 0; // and its own clock began anew
    const after = new Timekeeper(kept, c);
    expect(after.now()).toBeCloseTo(81);
    expect(after.jumped).toBeNull();
  });

  test("counts time slept, though the steady clock stood", () => {
    const c = clocks();
    const keeper = Timekeeper.begin(c);
    c.wall_ms += 300_000;
    c.steady_ms += 2_000;
    expect(keeper.now()).toBeCloseTo(300);
    expect(keeper.jumped).toBe("ahead");
  });

  test("does not lose time to a clock that is set back", () => {
    const c = clocks();
    const keeper = Timekeeper.begin(c);
    c.wall_ms += 60_000 - 3_600_000;
    c.steady_ms += 60_000;
    expect(keeper.now()).toBeCloseTo(60);
    expect(keeper.jumped).toBe("back");
    c.wall_ms += 10_000;
    c.steady_ms += 10_000;
    expect(keeper.now()).toBeCloseTo(70);
  });

  test("stands, and says so, when the clock was set back over a reload", () => {
    const c = clocks();
    const keeper = Timekeeper.begin(c);
    c.wall_ms += 60_000;
    c.steady_ms += 60_000;
    keeper.now();
    c.wall_ms -= 3_600_000;
    const after = new Timekeeper(keeper.remember(), c);
    expect(after.now()).toBeCloseTo(60);
    expect(after.jumped).toBe("back");
  });

  test("is right with two coarse clocks, however often it is asked", () => {
    const real = { ms: 0 };
    const keeper = Timekeeper.begin({
      wall: () => Math.floor(real.ms / 1000) * 1000 + 1_800_000_000_000,
      steady: () => Math.floor((real.ms + 400) / 100) * 100,
    });
    for (; real.ms < 900_000; real.ms += 250) keeper.now();
    expect(Math.abs(keeper.now() - 900)).toBeLessThan(1.5);
    expect(keeper.jumped).toBeNull();
  });

  test("is not certain when it slept and was set back in one go, and says so", () => {
    const c = clocks();
    const keeper = Timekeeper.begin(c);
    c.wall_ms += 30_000;
    c.steady_ms += 30_000;
    keeper.now();
    c.wall_ms += 600_000 - 3_600_000; // ten minutes' sleep in which the steady clock stood
    expect(keeper.now()).toBeCloseTo(30);
    expect(keeper.jumped).toBe("back");
    // Time slept afterwards does not make it certain again.
    c.wall_ms += 20_000;
    expect(keeper.now()).toBeCloseTo(50);
    expect(keeper.jumped).toBe("back");
  });

  test("never goes backwards, and is never behind the steady clock", () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.integer({ min: -10_000, max: 60_000 }), fc.integer({ min: 0, max: 60_000 })),
        ),
        (steps) => {
          const c = clocks();
          const keeper = Timekeeper.begin(c);
          let before = 0;
          let steady = 0;
          for (const [wall, on] of steps) {
            c.wall_ms += wall;
            c.steady_ms += on;
            steady += on;
            const now = keeper.now();
            expect(now).toBeGreaterThanOrEqual(before);
            expect(now * 1000).toBeGreaterThanOrEqual(steady - 1e-6);
            before = now;
          }
        },
      ),
    );
  });
});

describe("what happened in a flight", () => {
  beforeEach(() => {
    vi.stubGlobal("localStorage", new Store());
  });

  const flight = () => begun(PLAN, 96, { elapsed_s: 0, wall_ms: 0 });

  test("begins with the charge that was read on the ground", () => {
    const record = flight();
    expect(record.plan.card!.charge_pct).toBe(96);
    expect(record.events.map((e) => [e.kind, e.value])).toEqual([["takeoff", 96]]);
    expect(momentOf(record, 0).distance_m).toBe(PLAN.card!.distances_m[2]);
  });

  test("a slip that is taken back does not count", () => {
    const record = flight();
    const [good, slip] = [event("reading", 60, { value: 90 }), event("reading", 90, { value: 9 })];
    record.events.push(good, slip, event("withdrawn", 95, { text: slip.uid }));
    expect(readingsOf(record)).toEqual([{ at_s: 60, charge_pct: 90 }]);
    expect(standing(record.events)).toHaveLength(2);
    expect(unsent(record)).toHaveLength(4);
  });

  test("waits while the server is out of reach, and goes up once it is back, once", async () => {
    const got: FlightEvent[][] = [];
    let down = true;
    const put: Put = async (_uid, { events }) => {
      if (down) throw new Problem(0, "out of reach");
      got.push(events);
    };
    const record = flight();
    keepFlight(record);
    expect(await sendUp(put)).toBe("out_of_reach");
    keepFlight({ ...record, events: [...record.events, event("reading", 60, { value: 90 })] });
    expect(await sendUp(put)).toBe("out_of_reach");
    down = false;
    expect(await Promise.all([sendUp(put), sendUp(put)])).toEqual(["sent", "sent"]);
    expect(got).toHaveLength(1);
    expect(got[0]).toHaveLength(2);
    expect(await sendUp(put)).toBe("nothing");
    down = true;
    const now = keptFlights(7)[0]!;
    keepFlight({ ...now, events: [...now.events, event("landed", 300, { value: 70 })] });
    expect(inTheAir(7)).toBeNull();
    await sendUp(put);
    expect(keptFlights()).toHaveLength(1); // kept until the server has the landing
    down = false;
    expect(await sendUp(put)).toBe("sent");
    expect(got.flat()).toHaveLength(3);
    expect(keptFlights()).toEqual([]);
  });
});
