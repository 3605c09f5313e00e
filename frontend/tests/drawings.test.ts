import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Check, Energy, Fix, Plan } from "../src/api/client";
import { atTheTurn, bandAlong, chargeAlong } from "../src/drawings/outAndBack";
import { withFix } from "../src/stages/plan/Fixes";
import { againstLimit, barLength, PAST_WALL } from "../src/stages/plan/rails";
import { inHundred, METRIC, PRESETS } from "../src/units/units";
import example from "../../examples/example-plan.json";
import figures from "../../examples/example-figures.json";

const energy = figures.energy as unknown as Energy;

describe("out and back", () => {
  it("goes out, stands, comes back and lands, with the charge of every leg", () => {
    const points = chargeAlong(energy, 260, 100);
    expect(points[0]).toEqual({ along: 0, charge: 100 });
    expect(points.map((p) => p.along)).toEqual([0, 0, 0, 260, 260, 260, 520, 520, 520]);
    expect(points.at(-1)!.charge).toBe(energy.landing_pct);
  });

  it("knows the charge at the turn", () => {
    expect(atTheTurn(energy)).toEqual({ arrive: 93.9, leave: 73.46 });
  });

  it("ends where the wind stops it, and has then no turn", () => {
    const stopped = { ...energy, legs: energy.legs.slice(0, 2) };
    expect(chargeAlong(stopped, 260, 100)).toHaveLength(3);
    expect(atTheTurn(stopped)).toBeNull();
  });
});

describe("a rail", () => {
  it("grows with the share used, is true up to the wall and stays on the board", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 9.99, noNaN: true }),
        fc.double({ min: 0, max: 9.99, noNaN: true }),
        (a, b) => {
          expect(barLength(Math.max(a, b))).toBeGreaterThanOrEqual(barLength(Math.min(a, b)));
          expect(barLength(a)).toBeLessThanOrEqual(1 + PAST_WALL);
          if (a <= 1) expect(barLength(a)).toBe(a);
        },
      ),
    );
  });

  it("is seen to break through the wall by the smallest excess", () => {
    expect(barLength(1.0001)).toBeGreaterThan(1.02);
  });

  const check = (value: number | null, limit: number | null, unit: string, bound: Check["bound"]) =>
    ({ value, limit, unit, bound }) as Check;

  it("says value against limit, by the side that counts", () => {
    expect(againstLimit(check(4.902, 5.35, "m/s", "at_most"), METRIC)).toBe("4.9 of 5.4 m/s");
    expect(againstLimit(check(69.08, 30, "%", "at_least"), METRIC)).toBe("69% (min 30%)");
    expect(againstLimit(check(260, 137.72, "m", "at_most"), PRESETS[2]!)).toBe("853 of 452 ft");
    expect(againstLimit(check(91, 90, "°", "at_most"), METRIC)).toBe("91 of 90°");
    expect(againstLimit(check(null, 5.35, "m/s", "at_most"), METRIC)).toBe("not known");
  });

  it("adds digits where rounding would hide which is more", () => {
    expect(againstLimit(check(5.36, 5.35, "m/s", "at_most"), METRIC)).toBe("5.36 of 5.35 m/s");
    expect(againstLimit(check(29.8, 30, "%", "at_least"), METRIC)).toBe("29.8% (min 30.0%)");
    expect(againstLimit(check(30, 30, "%", "at_least"), METRIC)).toBe("30% (min 30%)");
  });
});

describe("the band of the charge", () => {
  it("stands on the same places as the line", () => {
    const legs = energy.legs.map((leg) => ({
      name: leg.name,
      low_pct: leg.charge_after_pct - 5,
      high_pct: leg.charge_after_pct + 5,
    }));
    const band = bandAlong(energy, legs, 260, 100);
    const line = chargeAlong(energy, 260, 100).slice(1);
    expect(band.map((p) => p.along)).toEqual(line.map((p) => p.along));
    band.forEach((p, i) => expect((p.low + p.high) / 2).toBeCloseTo(line[i]!.charge));
  });

  it("is said in whole hundredths that claim no certainty", () => {
    expect([0, 0.001, 0.5, 0.994, 0.999, 1].map(inHundred)).toEqual([0, 1, 50, 99, 99, 100]);
  });
});

describe("a lever", () => {
  it("changes the plan at its own keys and nothing else", () => {
    const plan = example as unknown as Plan;
    const lever = {
      set: { "flight.height_m": 20, "settings.rth_altitude_m": 25 },
    } as unknown as Fix;
    const changed = withFix(plan, lever);
    expect([changed.flight.height_m, changed.settings.rth_altitude_m]).toEqual([20, 25]);
    expect(changed.site).toBe(plan.site);
    expect(plan.flight.height_m).toBe(40);
  });
});
