import { describe, expect, it } from "vitest";
import { drillsOf } from "../src/along/standingIn";
import type { DrillCard, DrillsHere, DrillsNow, Plan } from "../src/api/client";
import { decidingWords, goingFor, needsWords, standingSentence } from "../src/drills/words";
import { drillsWith } from "../src/outbox/onSite";
import { METRIC } from "../src/units/units";
import example from "../../examples/example-plan.json";

const examplePlan = example as unknown as Plan;
const NOW = new Date("2026-09-27T12:00:00Z");

const card = (more: Partial<DrillCard> = {}): DrillCard => ({
  key: "nose_in",
  steps: ["Hover."],
  well: "It stays.",
  asks: [],
  minutes: 4,
  height_m: 5,
  out_m: 10,
  room_m: 15,
  wind_ms: 3.6,
  status: "unknown",
  may_start: false,
  points: [
    { name: "Room", status: "pass", sentence: "Nothing known." },
    { name: "Wind at its height", status: "care", sentence: "Wind 3.2 m/s." },
    { name: "People", status: "unknown", sentence: "Nobody has looked." },
  ],
  answer: null,
  ...more,
});

const now: DrillsNow = {
  drills: [],
  course: { step: 1, steps: 5, left: [] },
  wanted: [],
  first_flights: false,
};
const here = (...cards: DrillCard[]): DrillsHere => ({ cards, now });

const looked = (plan: Plan, day: string | null): Plan => ({
  ...plan,
  site: { ...plan.site, people_looked_at: day },
});

describe("drills that were taken along", () => {
  const before = looked(examplePlan, null);

  it("start once somebody has looked for people, as nothing else has changed", () => {
    const [found] = drillsOf(here(card()), before, looked(before, "2026-09-27"), NOW).cards;
    expect([found!.status, found!.may_start]).toEqual(["care", true]);
    expect(drillsOf(here(card()), before, before, NOW).cards[0]!.may_start).toBe(false);
  });

  it("do not start on what was changed since, whatever it is", () => {
    const windier = {
      ...looked(before, "2026-09-27"),
      pack: { ...before.pack, charge_pct: 60 },
    };
    const [found] = drillsOf(here(card()), before, windier, NOW).cards;
    expect([found!.status, found!.may_start]).toEqual(["unknown", false]);
    expect(found!.points.map((p) => p.status)).toEqual(["unknown", "unknown", "unknown"]);
  });

  it("keep what stops them, and take back that nobody is there", () => {
    const stopped = card({ points: [{ name: "Room", status: "fail", sentence: "Trees." }] });
    expect(drillsOf(here(stopped), before, before, NOW).cards[0]!.status).toBe("fail");
    const after = looked(before, "2026-09-27");
    const fine = card({ points: [{ name: "People", status: "pass", sentence: "None." }] });
    expect(drillsOf(here(fine), after, before, NOW).cards[0]!.may_start).toBe(false);
  });

  it("start where nothing flies", () => {
    const ground = card({ height_m: null, status: "pass", may_start: true, points: [] });
    const windier = { ...before, pack: { ...before.pack, charge_pct: 60 } };
    expect(drillsOf(here(ground), before, windier, NOW).cards[0]!.may_start).toBe(true);
  });
});

describe("drills whose weather has aged", () => {
  it("do not start, and people who are drawn need no look", () => {
    const wait = {
      ...looked(examplePlan, null),
      weather: { ...examplePlan.weather, as_of: "2026-09-26T00:00:00Z" },
    };
    const points: DrillCard["points"] = [
      { name: "Wind at its height", status: "pass", sentence: "Wind 1 m/s." },
      { name: "People", status: "pass", sentence: "108 m from the car park." },
    ];
    const [found] = drillsOf(here(card({ points })), wait, wait, NOW).cards;
    expect(found!.points.map((p) => p.status)).toEqual(["unknown", "pass"]);
    expect(found!.may_start).toBe(false);
  });
});

describe("what is said of a drill", () => {
  it("answers follow what was said", () => {
    const answer = { word: "done", value: null, note: "", said_at: NOW.toISOString() } as const;
    const found = drillsWith(here(card(), card({ key: "square" })), (key, was) =>
      key === "square" ? answer : was,
    );
    expect(found.cards.map((c) => c.answer)).toEqual([null, answer]);
  });

  it("in words", () => {
    const standing = { key: "nose_in", name: "Hover nose-in", why: "", tries: 0 };
    const said = (last: string | null, due_at: string | null, tries = 0) =>
      standingSentence({ ...standing, last, due_at, tries }, NOW);
    expect(said(null, null)).toBe("Not done yet.");
    expect(said(null, null, 2)).toBe("Tried, not done well yet.");
    expect(said("2026-07-01T12:00:00Z", "2026-08-30T12:00:00Z", 1)).toMatch(
      /days ago, due again\.$/,
    );
    expect(needsWords(card(), METRIC)).toContain("wind up to 3.6 m/s");
    expect(needsWords(card({ height_m: null, wind_ms: null }), METRIC)).toBe(
      "Nothing flies; about 4 min.",
    );
    expect(decidingWords(card())).toBe("Nobody has looked.");
    expect(decidingWords(card({ status: "pass" }))).toBe("Nothing stands in its way.");
    expect(goingFor("2026-09-27T11:56:55Z", NOW)).toBe("3:05");
  });
});
