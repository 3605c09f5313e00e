import { beforeEach, describe, expect, it, vi } from "vitest";
import { Problem } from "../src/api/client";
import { figure } from "../src/eye/figure";
import {
  endLook,
  keepLook,
  looksWaiting,
  lookUnderWay,
  newLook,
  sendLooks,
  type Found,
} from "../src/eye/kept";
import {
  arcMinutes,
  chances,
  drawnMm,
  DRAWN_PX,
  farthestM,
  nextDistance,
  viewingFor,
  WAYS,
} from "../src/eye/staircase";
import cases from "./eye.cases.json";
import { Store } from "./store";

describe("the staircase", () => {
  it("is the core’s", () => {
    for (const { size_m, most_m, right, next_m } of cases)
      expect(nextDistance(right, size_m, most_m)).toBeCloseTo(next_m, 9);
    expect(cases.length).toBeGreaterThan(200);
  });

  it("draws what takes the angle that the aircraft would", () => {
    for (const [size, distance, viewing] of [
      [0.36, 138, 500],
      [0.2, 40, 2000],
      [1.2, 900, 350],
    ] as const)
      expect(arcMinutes(drawnMm(size, distance, viewing), viewing)).toBeCloseTo(
        arcMinutes(size, distance),
        9,
      );
    // By the formula of the angle: a third of a metre at 138 m is nine arc minutes.
    expect(arcMinutes(0.36, 138)).toBeCloseTo(8.97, 2);
  });

  it("ends where the screen does", () => {
    const far = farthestM(0.36, 600, 4);
    expect(drawnMm(0.36, far, 600) * 4).toBeCloseTo(DRAWN_PX);
    expect(viewingFor(0.36, far, 4)).toBeCloseTo(600);
  });

  it("shows each way as often as another, and the same again after a reload", () => {
    const uid = "0123456789abcdef0123456789abcdef";
    const ways = Array.from({ length: 4000 }, (_, n) => Math.floor(chances(uid, n)[0] * 4));
    for (const way of [0, 1, 2, 3])
      expect(Math.abs(ways.filter((w) => w === way).length - 1000)).toBeLessThan(110);
    expect(chances(uid, 7)).toEqual(chances(uid, 7));
    expect(chances(uid, 7)).not.toEqual(chances(`1${uid.slice(1)}`, 7));
  });
});

/** The corners of a figure. */
const corners = (...of: Parameters<typeof figure>) =>
  figure(...of).flatMap((face) =>
    face.points.split(" ").map((p) => p.split(",").map(Number) as [number, number]),
  );

describe("the figure", () => {
  it("is as wide as its size, whichever way it points", () => {
    for (const way of ["away", "towards"] as const) {
      const xs = corners(way, 0, 10).map(([x]) => x);
      expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(1, 2);
    }
  });

  it("is a mirror image to the left and to the right, and differs in every way", () => {
    const sorted = (points: [number, number][], sign: number) =>
      points.map(([x, y]) => `${(sign * x + 0).toFixed(3)},${y.toFixed(3)}`).sort();
    expect(sorted(corners("left", 0, 15), -1)).toEqual(sorted(corners("right", 0, 15), 1));
    const drawn = WAYS.map((way) => JSON.stringify(figure(way, 0, 15)));
    expect(new Set(drawn).size).toBe(4);
  });
});

describe("a look", () => {
  const of = {
    aircraft: "Dunlin",
    size_m: 0.36,
    background: "dull",
    timed: true,
    viewing_mm: 500,
  } as const;
  beforeEach(() => {
    vi.stubGlobal("localStorage", new Store());
  });

  it("is kept after each answer, and waits for the server once it is over", async () => {
    const look = newLook(of);
    const said = { distance_m: 60, way: "left", said: "left" } as const;
    keepLook({ ...look, said: [said] });
    expect(lookUnderWay()?.said).toEqual([said]);
    endLook({ ...look, said: [said] });
    expect(lookUnderWay()).toBeNull();
    expect(looksWaiting()).toHaveLength(1);
    const gone = vi.fn().mockRejectedValue(new Problem(0, "gone"));
    expect((await sendLooks(gone)).found).toBeNull();
    expect(looksWaiting()).toHaveLength(1);
    const found = { uid: look.uid } as Found;
    const put = vi.fn().mockResolvedValue(found);
    expect((await sendLooks(put)).found).toBe(found);
    expect(put.mock.calls[0]![0].look.uid).toBe(look.uid);
    expect(looksWaiting()).toHaveLength(0);
  });

  it("that is refused says why and does not come again", async () => {
    endLook(newLook(of));
    const put = vi.fn().mockRejectedValue(new Problem(404, "No such aircraft."));
    expect((await sendLooks(put)).refused).toBe("No such aircraft.");
    expect(looksWaiting()).toHaveLength(0);
  });
});
