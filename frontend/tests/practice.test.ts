import { daysBetween, goingOver } from "../src/practice/overTime";
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Problem } from "../src/api/client";
import type { AnswerIn, CaseKey, FamilyNow, Room } from "../src/api/practice";
import { roomAway } from "../src/practice/ahead";
import { markBy } from "../src/practice/marking";
import { keepSaid, saidWaiting, sendSaid } from "../src/practice/said";
import { dueIn } from "../src/practice/words";
import cases from "./marking.cases.json";
import { Store } from "./store";

describe("practice in words", () => {
  const now = new Date("2026-09-27T10:00:00Z");
  const after = (hours: number) => new Date(now.getTime() + hours * 3_600_000).toISOString();

  it("says when a family is due", () => {
    expect([-1, 0, 0.2, 1, 30, 36, 300].map((h) => dueIn(after(h), now))).toEqual([
      "now",
      "now",
      "within the hour",
      "in 1 h",
      "in 30 h",
      "in 2 days",
      "in 13 days",
    ]);
  });
});

describe("marks on the device", () => {
  it("are the core’s", () => {
    for (const { key, answer, marked } of cases) {
      const said = { ...answer, uid: "u" } as AnswerIn;
      const { cost, brier, ...rest } = markBy(key as CaseKey, said);
      const { cost: wanted, brier: score, ...others } = marked;
      expect(cost).toBeCloseTo(wanted, 9);
      expect(brier).toBeCloseTo(score, 9);
      expect(rest).toEqual({ ...others, sure_cost: expect.closeTo(others.sure_cost, 9) });
    }
    expect(cases.length).toBeGreaterThan(300);
  });
});

describe("the room while the server is away", () => {
  const family = (key: string) => ({ key, seed: 3, none: false }) as FamilyNow;
  const room = {
    today: [
      { family: "cold", why: "due" },
      { family: "light", why: "new" },
      { family: "radio", why: "new" },
    ],
    families: [family("cold"), family("light"), family("radio")],
    weakest: null,
    aircraft: null,
  } satisfies Room;
  const here = new Map([
    ["cold", [5, 4]],
    ["light", [3]],
  ]);

  it("asks for what is here, the lowest number first, and for nothing else", () => {
    const away = roomAway(room, here, []);
    expect(away.today.map((t) => t.family)).toEqual(["cold", "light"]);
    expect(away.families.map((f) => [f.seed, f.none])).toEqual([
      [4, false],
      [3, false],
      [3, true],
    ]);
  });

  it("goes on to the next case once one is answered, and is done with the family today", () => {
    const away = roomAway(room, here, [{ family: "cold", seed: 4 }]);
    expect(away.today.map((t) => t.family)).toEqual(["light"]);
    expect(away.families[0]!.seed).toBe(5);
  });
});

describe("answers that wait", () => {
  beforeEach(() => {
    vi.stubGlobal("localStorage", new Store());
    vi.useFakeTimers();
    return () => vi.useRealTimers();
  });
  const said = (uid: string) => ({ uid, word: "wait", sure_pct: 70, tightest: "x" }) as AnswerIn;

  it("go up first said first, with how long ago, and stay while the server is away", async () => {
    vi.setSystemTime("2026-09-27T10:00:00Z");
    keepSaid("cold", 4, said("b"));
    vi.setSystemTime("2026-09-27T10:01:00Z");
    keepSaid("light", 3, said("a"));
    const away = vi.fn().mockRejectedValue(new Problem(0, "away"));
    expect(await sendSaid(away)).toBe(0);
    expect(saidWaiting().map((s) => s.said.uid)).toEqual(["b", "a"]);
    const put = vi.fn().mockResolvedValue({});
    expect(await sendSaid(put)).toBe(2);
    expect(put.mock.calls.map(([family, seed, { ago_s }]) => [family, seed, ago_s])).toEqual([
      ["cold", 4, 60],
      ["light", 3, 0],
    ]);
    expect(saidWaiting()).toEqual([]);
  });

  it("that the server will never take are let go of, and the others still go", async () => {
    keepSaid("cold", 4, said("a"));
    keepSaid("cold", 5, said("b"));
    const put = vi.fn().mockRejectedValueOnce(new Problem(404, "no such case"));
    put.mockResolvedValueOnce({});
    expect(await sendSaid(put)).toBe(1);
    expect(saidWaiting()).toEqual([]);
  });
});

describe("over time", () => {
  const point = (day: number, cost: number) => ({
    at: new Date(2030, 8, day, 9).toISOString(),
    cost,
    grade: "good" as const,
  });

  it("is the mean of the latest five, the first first, whatever order they come in", () => {
    const points = [6, 1, 2, 3, 4, 5].map((day) => point(day, day === 1 ? 10 : 0));
    expect(goingOver(points).map((g) => g.cost)).toEqual([10, 5, 10 / 3, 2.5, 2, 0]);
    expect(goingOver([])).toEqual([]);
  });

  it("names the days that it covers, no more than fit", () => {
    const at = (day: number, hour: number) => new Date(2030, 8, day, hour).getTime();
    expect(daysBetween(at(3, 9), at(3, 20), 4)).toEqual([at(3, 0)]);
    expect(daysBetween(at(3, 9), at(6, 9), 8)).toEqual([3, 4, 5, 6].map((d) => at(d, 0)));
    const month = daysBetween(at(1, 9), at(30, 9), 4);
    expect(month.length).toBeLessThanOrEqual(4);
    expect(month[0]).toBe(at(1, 0));
  });
});
