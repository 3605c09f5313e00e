import { beforeEach, describe, expect, it, vi } from "vitest";
import { Problem, type FlightCard } from "../src/api/client";
import { flightFor, FLIGHTS_AHEAD, keepFlights } from "../src/practice/flights";
import {
  act,
  clockOf,
  markOf,
  START,
  step,
  truth,
  verdictOf,
  waiting,
  type Flying,
  type Rehearsal,
} from "../src/practice/rehearsal";
import cases from "./clock.cases.json";
import { Store } from "./store";

const card = (Object.values(cases.cards) as unknown as FlightCard[]).find((c) => c.home !== null)!;

const rehearsal = (more: Partial<Rehearsal> = {}): Rehearsal => ({
  seed: 1,
  aircraft: "Dunlin",
  card,
  trouble: "none",
  factor: 1,
  drop_at_s: null,
  drop_points: 0,
  distance_m: 200,
  speed: 10,
  ...more,
});

/** Fly by a rule until it ends: what the pilot does, given what waits, so long after it began [own s]. */
function fly(r: Rehearsal, does: (f: Flying, own_s: number) => "read" | "turn" | "land" | null) {
  let f = START;
  for (let own = 0; own < 600 && !f.ended; own += 0.5) {
    f = step(r, f, own);
    const what = does(f, own);
    if (what) f = act(r, f, what, own);
  }
  return f;
}

/** Reads when asked and turns back when told, after so many seconds of their own. */
const attentive = (r: Rehearsal, after_s: number) =>
  fly(r, (f, own) => {
    const due = f.heard.filter((h) => h.answered_s === null && own - h.began_s >= after_s);
    if (due.some((h) => h.call === "land")) return "land";
    if (due.some((h) => h.call === "turn_back" || h.call === "fast")) return "turn";
    return due.some((h) => h.call === "missed") ? "read" : null;
  });

describe("a flight to rehearse", () => {
  it("comes home with its reserve for who answers, and every answer counts as quick", () => {
    const r = rehearsal();
    const f = attentive(r, 1);
    expect([f.ended, verdictOf(r, f)]).toEqual(["home", "good"]);
    expect(truth(r, f)).toBeGreaterThanOrEqual(r.card.reserve_pct);
    expect(f.heard.length).toBeGreaterThan(1);
    expect(new Set(f.heard.map(markOf))).toEqual(new Set(["quick"]));
  });

  it("is marked late and too late by how soon each alert is answered", () => {
    expect(markOf({ call: "missed", began_s: 3, answered_s: 8 })).toBe("quick");
    expect(markOf({ call: "missed", began_s: 3, answered_s: 8.1 })).toBe("late");
    expect(markOf({ call: "missed", began_s: 3, answered_s: 13.1 })).toBe("missed");
    expect(markOf({ call: "missed", began_s: 3, answered_s: null })).toBe("missed");
  });

  it("comes down by itself for who never does anything", () => {
    const r = rehearsal({ trouble: "drains", factor: 1.4 });
    const f = fly(r, () => null);
    expect([f.ended, verdictOf(r, f)]).toEqual(["forced", "lost"]);
    expect(f.heard.every((h) => h.answered_s === null)).toBe(true);
  });

  it("a cell that gives way shows only once the charge is read", () => {
    const r = rehearsal({ trouble: "drops", drop_at_s: 100, drop_points: 20 });
    const before = step(r, START, 10.5);
    expect(clockOf(r, before).calls).not.toContain("fast");
    expect(truth(r, before)).toBeLessThan(clockOf(r, before).charge_pct - 15);
    const after = act(r, before, "read", 10.5);
    expect(clockOf(r, after).calls).toContain("fast");
    expect(waiting(after, clockOf(r, after).calls)).toContain("fast");
  });

  it("down at once, nothing that turning back would answer waits any more", () => {
    const r = rehearsal();
    const down = act(r, step(r, START, 5), "land", 5);
    expect(waiting(down, ["turn_back", "land", "missed"])).toEqual([]);
    const ended = step(r, down, 20);
    expect([ended.ended, verdictOf(r, ended)]).toEqual(["here", "early"]);
    expect(act(r, ended, "turn", 21)).toBe(ended);
  });
});

describe("flights that are here", () => {
  beforeEach(() => {
    vi.stubGlobal("localStorage", new Store());
  });
  const by = (seed: number) => Promise.resolve(rehearsal({ seed }));
  const away = () => Promise.reject(new Problem(0, "away"));

  it("stand in while the server is away: the one of the number, or another", async () => {
    await expect(flightFor(3, undefined, away)).rejects.toThrow("away");
    await keepFlights(1, by);
    expect((await flightFor(3, undefined, away)).seed).toBe(3);
    expect((await flightFor(FLIGHTS_AHEAD + 5, undefined, away)).seed).toBe(6);
    expect((await flightFor(99, undefined, by)).seed).toBe(99);
  });

  it("do not stand in for a flight that there is not", async () => {
    await keepFlights(1, by);
    const none = () => Promise.reject(new Problem(404, "no flight is within limits"));
    await expect(flightFor(3, undefined, none)).rejects.toThrow("no flight");
  });

  it("stay as they are where not all could be had", async () => {
    await keepFlights(1, by);
    let asked = 0;
    await expect(keepFlights(50, (seed) => (asked++ < 3 ? by(seed) : away()))).rejects.toThrow();
    expect((await flightFor(2, undefined, away)).seed).toBe(2);
  });
});
