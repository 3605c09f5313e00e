import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Windows, Slot, Window } from "../src/api/client";
import {
  hourTicks,
  placeOf,
  placeOfWindow,
  runs,
  shadeOf,
  windAt,
} from "../src/drawings/timeHeight";

const slots = Array.from({ length: 6 }, (_, i) => ({
  at: `2026-09-27T${String(5 + Math.floor(i / 2)).padStart(2, "0")}:${i % 2 ? "30" : "00"}:00+03:00`,
})) as unknown as Slot[];

describe("the curtain", () => {
  it("shades by the share of the limit, and what is over it apart", () => {
    expect([0, 0.25, 0.26, 0.5, 0.8, 1, 1.01, 9].map(shadeOf)).toEqual([0, 0, 1, 1, 2, 3, 4, 4]);
    expect(shadeOf(null)).toBeNull();
  });

  it("joins what is the same in a row", () => {
    expect(runs(["a", "a", "b", "a"])).toEqual([
      { from: 0, to: 2, what: "a" },
      { from: 2, to: 3, what: "b" },
      { from: 3, to: 4, what: "a" },
    ]);
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 3 })), (values) => {
        const again = runs(values).flatMap((r) => Array<number>(r.to - r.from).fill(r.what));
        expect(again).toEqual(values);
      }),
    );
  });

  it("puts a height between the heights that it knows", () => {
    const heights = [5, 10, 20, 40];
    expect([0, 5, 7.5, 10, 30, 40, 99].map((h) => placeOf(h, heights))).toEqual([
      0, 0, 0.5, 1, 2.5, 3, 3,
    ]);
  });

  it("puts a window where it begins and ends, whatever offset it is written in", () => {
    const window = { begin: "2026-09-27T02:30:00Z", end: "2026-09-27T07:00:00+03:00" } as Window;
    expect(placeOfWindow(window, slots)).toEqual([1, 4]);
    const open = { begin: "2026-09-27T05:00:00+03:00", end: "2026-09-27T08:00:00+03:00" } as Window;
    expect(placeOfWindow(open, slots)).toEqual([0, 6]);
    const odd = { begin: "2026-09-27T05:45:00+03:00", end: "2026-09-27T06:31:00+03:00" } as Window;
    expect(placeOfWindow(odd, slots)).toEqual([1.5, 3 + 1 / 30]);
  });

  it("ticks the full hours that are asked for", () => {
    expect(hourTicks(slots, 3)).toEqual([{ at: 2, name: "06" }]);
    expect(hourTicks(slots, 1).map((t) => t.name)).toEqual(["05", "06", "07"]);
  });

  it("reads the wind of the nearest height, and none where it is not known", () => {
    const look = {
      curtain: {
        height_m: [10, 20],
        speed_ms: [[3, 4]],
        gust_ms: [[5, 6]],
        direction_deg: [[200, 210]],
        used: [[0.5, 0.6]],
      },
    } as unknown as Windows;
    expect(windAt(look, 0, 18)).toEqual({ speed: 4, gust: 6, from: 210, used: 0.6 });
    expect(windAt(look, 1, 18)).toBeNull();
  });
});
