import { describe, expect, it } from "vitest";
import type { FamilyNow } from "../src/api/practice";
import { calibration, dueIn, standingOf } from "../src/practice/words";

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

  it("says how a family goes by what its latest answers cost", () => {
    const costs = [null, 0, 0.4, 1, 2.5, 9];
    const said = costs.map((mean_cost) => standingOf({ mean_cost } as FamilyNow));
    expect(said).toEqual(["not begun", "steady", "steady", "so so", "weak", "weak"]);
  });

  it("says whether the pilot is surer than may be", () => {
    expect([null, 0.04, 0.2, 0.5].map(calibration)).toEqual([
      "",
      "as sure as you should be",
      "roughly as sure as you should be",
      "surer than you should be",
    ]);
  });
});
