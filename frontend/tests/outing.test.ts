import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Plan, Shot } from "../src/api/client";
import {
  alone,
  dropped,
  moved,
  placed,
  shifted,
  sooner,
  whereIs,
  type HandFlight,
} from "../src/stages/prepare/outing";
import example from "../../examples/example-plan.json";

const plan = example as unknown as Plan;
const flights: HandFlight[] = [
  { pack: 7, shots: [0, 1] },
  { pack: 8, shots: [2] },
];

describe("flights set by hand", () => {
  it("move a subject within, between and out of flights", () => {
    expect(shifted(flights, 0, 0, 1)[0]!.shots).toEqual([1, 0]);
    expect(shifted(flights, 0, 0, -1)).toEqual(flights);
    expect(moved(flights, 2, 0)).toEqual([{ pack: 7, shots: [0, 1, 2] }]);
    expect(moved(flights, 0, 1)).toEqual([
      { pack: 7, shots: [1] },
      { pack: 8, shots: [2, 0] },
    ]);
    expect(alone(flights, 1, 9).at(-1)).toEqual({ pack: 9, shots: [1] });
    expect(dropped(flights, 2)).toEqual([flights[0]]);
    expect(sooner(flights, 1)).toEqual([flights[1], flights[0]]);
    expect(sooner(flights, 0)).toBe(flights);
  });

  it("never film a subject twice, and never lose one", () => {
    const shot = fc.integer({ min: 0, max: 2 });
    fc.assert(
      fc.property(shot, fc.integer({ min: 0, max: 1 }), (s, to) => {
        for (const next of [moved(flights, s, to), alone(flights, s, 9)])
          expect(next.flatMap((f) => f.shots).sort()).toEqual([0, 1, 2]);
      }),
    );
  });
});

describe("a subject", () => {
  it("stands where it is put, by bearing and distance", () => {
    const shot = { latitude: 0, longitude: 0 } as Shot;
    const { bearing, distance } = whereIs(plan, placed(plan, shot, 240, 262));
    expect(bearing).toBeCloseTo(240, 1);
    expect(distance).toBeCloseTo(262, 1);
  });
});
