import { describe, expect, it } from "vitest";
import { EYE_M, isTheSpot, pointing, topHeight, turnTo } from "../src/sensors/sensing";

const turned = (
  alpha: number | null,
  beta: number | null,
  gamma: number | null,
  absolute = true,
) => ({
  alpha,
  beta,
  gamma,
  absolute,
});

describe("where the back of a phone points", () => {
  it("is the horizon ahead when it is held upright, whichever way one turns", () => {
    // alpha counts against the clock: turned to the east, it is 270.
    for (const [alpha, bearing] of [
      [0, 0],
      [270, 90],
      [180, 180],
      [90, 270],
    ] as const) {
      const found = pointing(turned(alpha, 90, 0))!;
      expect(turnTo(found.bearing_deg, bearing)).toBeCloseTo(0);
      expect(found.elevation_deg).toBeCloseTo(0);
    }
  });

  it("is up when its top is leaned back, down when it lies on a table", () => {
    expect(pointing(turned(0, 120, 0))!.elevation_deg).toBeCloseTo(30);
    expect(pointing(turned(0, 60, 0))!.elevation_deg).toBeCloseTo(-30);
    expect(pointing(turned(0, 0, 0))!.elevation_deg).toBeCloseTo(-90);
  });

  it("is the same sideways on: rolled about its back, nothing changes", () => {
    // Held on its side, upright: beta 0, gamma -90, its top to the left of north.
    const found = pointing(turned(90, 0, -90))!;
    expect(found.elevation_deg).toBeCloseTo(0);
    expect(turnTo(found.bearing_deg, 0)).toBeCloseTo(0);
  });

  it("is not known without a north, or without a tilt", () => {
    expect(pointing(turned(10, 90, 0, false))).toBeNull();
    expect(pointing(turned(null, 90, 0))).toBeNull();
    expect(pointing(turned(10, null, 0))).toBeNull();
    const compass = { ...turned(null, 90, 0, false), webkitCompassHeading: 45 };
    expect(pointing(compass)).toMatchObject({ bearing_deg: 45 });
  });
});

describe("what follows from it", () => {
  it("turns the short way", () => {
    expect(turnTo(350, 10)).toBe(20);
    expect(turnTo(10, 350)).toBe(-20);
    expect(turnTo(0, 180)).toBe(-180);
  });

  it("gives the height of a top: 20 m away at 45° it is 20 m over the hand", () => {
    const { height_m, pm_m } = topHeight(20, 45);
    expect(height_m).toBeCloseTo(20 + EYE_M);
    // The derivative of tan at 45° is 2: 20 m × 2 × 1.5°.
    expect(pm_m).toBeCloseTo(20 * 2 * ((1.5 * Math.PI) / 180), 1);
    expect(topHeight(50, 0).height_m).toBeCloseTo(EYE_M);
  });

  it("says that it is the spot only where the position is true enough", () => {
    expect(isTheSpot(5, 8)).toBe("here");
    expect(isTheSpot(30, 8)).toBe("elsewhere");
    expect(isTheSpot(30, 40)).toBe("unsure");
  });
});
