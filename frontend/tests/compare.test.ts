import { describe, expect, it } from "vitest";
import type { Plan, Result } from "../src/api/client";
import { rows } from "../src/stages/plan/compare/rows";
import { VARIANTS } from "../src/stages/plan/compare/variants";
import example from "../../examples/example-plan.json";

const plan = example as unknown as Plan;
const variant = (key: string) => VARIANTS.find((v) => v.key === key)!.of(plan);

describe("the variants", () => {
  it("turn the flight into the wind and with it", () => {
    expect(variant("into").flight.bearing_deg).toBe(240);
    expect(variant("with").flight.bearing_deg).toBe(60);
  });

  it("halve what they say, and leave the plan they came from alone", () => {
    expect(variant("half").flight.distance_m).toBe(130);
    expect(variant("low").flight.height_m).toBe(20);
    expect(variant("fast").flight.return_mode).toBe("fast");
    expect(variant("planned")).toBe(plan);
    expect(plan.flight).toEqual((example as unknown as Plan).flight);
  });

  it("have keys and names of their own", () => {
    expect(new Set(VARIANTS.map((v) => v.key)).size).toBe(VARIANTS.length);
    expect(new Set(VARIANTS.map((v) => v.name)).size).toBe(VARIANTS.length);
  });
});

describe("the rows of a comparison", () => {
  const result = (checks: [string, string, number | null][]) =>
    ({ checks: checks.map(([id, status, used]) => ({ id, status, used })) }) as unknown as Result;

  it("show what differs or does not pass, the longest bar of any first", () => {
    const one = result([
      ["wind.gust", "pass", 0.5],
      ["sight.distance", "pass", 0.4],
      ["rules.mass", "care", 0.99],
      ["battery.charge", "pass", 0.1],
    ]);
    const two = result([
      ["wind.gust", "fail", 1.4],
      ["sight.distance", "pass", 0.2],
      ["rules.mass", "care", 0.99],
      ["battery.charge", "pass", 0.1],
    ]);
    expect(rows([one, two])).toEqual(["wind.gust", "rules.mass", "sight.distance"]);
  });

  it("count what is not known in one of them as a difference", () => {
    const known = result([["wind.gust", "pass", 0]]);
    const unknown = result([["wind.gust", "unknown", null]]);
    expect(rows([known, unknown])).toEqual(["wind.gust"]);
  });

  it("are none when all is the same and passes", () => {
    const same = result([["wind.gust", "pass", 0.3]]);
    expect(rows([same, same])).toEqual([]);
  });
});
