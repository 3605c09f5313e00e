import { describe, expect, it } from "vitest";
import { Flight, type Acts, type Ended } from "../src/homeward/flight";
import { didRead, didWritten } from "../src/homeward/did";
import { reviewing, worth } from "../src/homeward/review";
import type { HomeFlight } from "../src/homeward/tables";
import written from "./homeward.cases.json";

interface Case {
  flight: HomeFlight;
  flights: { acts: Acts; moments: number[][]; ended: Ended }[];
  review: {
    moments: number[];
    choices: [number, string, string, string, number, number][];
    last_home_s: number | null;
    last_reserve_s: number | null;
  } | null;
}

const cases = written as unknown as Case[];
/** A thousand flights each: a busy machine is slow, not wrong. */
const PATIENT = { timeout: 60_000 };

describe("a flight on the device", PATIENT, () => {
  it.each(cases.map((c) => [c.flight.mishap.kind, c] as const))("is the core’s: %s", (_, c) => {
    for (const { acts, moments, ended } of c.flights) {
      const flying = new Flight(c.flight, acts);
      for (const [at_s, x, y, z, charge, ground] of moments) {
        while (flying.at_s < at_s! && !flying.ended) flying.step();
        expect(flying.x).toBeCloseTo(x!, 4);
        expect(flying.y).toBeCloseTo(y!, 4);
        expect(flying.z).toBeCloseTo(z!, 4);
        expect(flying.charge_pct).toBeCloseTo(charge!, 5);
        expect(flying.ground_ms).toBeCloseTo(ground!, 4);
      }
      const end = flying.toTheEnd();
      expect([end.end, end.at_s]).toEqual([ended.end, ended.at_s]);
      expect(end.charge_pct).toBeCloseTo(ended.charge_pct, 5);
      expect(end.from_home_m).toBeCloseTo(ended.from_home_m, 3);
    }
  });

  it("does all that is said in one moment, in its order", () => {
    const { flight } = cases[1]!;
    const there = new Flight(flight);
    while (there.at_s < flight.begins_s) there.step();
    const live = there.copy().and("fast").and("by_hand").and("lower");
    const at_s = there.at_s;
    const told = new Flight(flight, [
      { at_s, act: "fast" },
      { at_s, act: "by_hand" },
      { at_s, act: "lower" },
    ]);
    expect(live.toTheEnd()).toEqual(told.toTheEnd());
    live.step();
    expect(live.fast).toBe(true);
    expect(live.ended!.end).not.toBe(there.copy().and("lower").toTheEnd().end);
  });

  it("flown on from the middle is the same flight", () => {
    const { flight, flights } = cases[1]!;
    const { acts, ended } = flights[2]!;
    const there = new Flight(flight);
    while (there.at_s < acts[0]!.at_s) there.step();
    const before = [there.x, there.z, there.charge_pct];
    expect(there.copy().then(acts).toTheEnd().charge_pct).toBeCloseTo(ended.charge_pct, 5);
    // The copy was flown, the first stays where it was.
    expect([there.x, there.z, there.charge_pct]).toEqual(before);
  });
});

describe("an address", () => {
  it("holds what was done", () => {
    for (const acts of [
      [],
      [{ at_s: 504.5, act: "lower" as const }],
      [
        { at_s: 504.5, act: "lower" as const },
        { at_s: 504.5, act: "return_home" as const },
        { at_s: 620, act: "turn_back" as const },
      ],
    ])
      expect(didRead(didWritten(acts))).toEqual(acts);
  });

  it("that holds nothing of the kind is none", () => {
    for (const text of [
      null,
      "",
      "5",
      "5-dance",
      "-5-lower",
      "9999-land",
      "x-land",
      "5-lower..",
      "5-",
    ])
      expect(didRead(text)).toBeNull();
    expect(didRead(Array(300).fill("5-lower").join(".."))).toBeNull();
  });
});

describe("what else could have been done", PATIENT, () => {
  const reviewed = cases.filter((c) => c.review !== null);

  it.each(reviewed.map((c) => [c.flight.mishap.kind, c] as const))("is the core’s: %s", (_, c) => {
    const { acts } = c.flights[0]!;
    const own = new Flight(c.flight, acts).toTheEnd();
    const going = reviewing(c.flight, acts, own);
    const shares: number[] = [];
    let next = going.next();
    while (!next.done) {
      shares.push(next.value);
      next = going.next();
    }
    const found = next.value;
    expect(shares.at(-1)).toBe(1);
    expect(found.moments).toEqual(c.review!.moments);
    expect(found.choices.length).toBe(c.review!.choices.length);
    for (const [n, [at_s, act, alone, end, charge, of]] of c.review!.choices.entries()) {
      const mine = found.choices[n]!;
      expect([mine.at_s, mine.act, mine.alone.end, mine.ended.end]).toEqual([
        at_s,
        act,
        alone,
        end,
      ]);
      expect(mine.ended.charge_pct).toBeCloseTo(charge, 4);
      expect(mine.worth).toBeCloseTo(of, 4);
    }
    expect([found.last_home_s, found.last_reserve_s]).toEqual([
      c.review!.last_home_s,
      c.review!.last_reserve_s,
    ]);
    const most = Math.max(found.own_worth, ...found.choices.map((x) => x.worth));
    expect(found.best?.worth ?? found.own_worth).toBe(most);
  });

  it("counts somebody hurt for worst, and each point under the reserve", () => {
    const of = (end: Ended["end"], charge_pct = 40, from_home_m = 0) =>
      worth({ at_s: 1, end, charge_pct, from_home_m }, 30);
    expect(of("hurt")).toBeLessThan(of("gone"));
    expect(of("home", 29)).toBe(99);
    expect(of("home", 80)).toBe(of("home", 31));
    expect(of("away", 40, 500)).toBeLessThan(of("away"));
  });
});
