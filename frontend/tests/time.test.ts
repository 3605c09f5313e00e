import { describe, expect, it } from "vitest";
import { ago, clock, day, isoOf, since, wallTime } from "../src/frame/time";

describe("times", () => {
  it("stay on the wall of the place, whatever zone this machine is in", () => {
    for (const iso of ["2026-09-27T07:40:00+03:00", "2026-09-27T07:40:00.000000-11:00"]) {
      expect(day(iso)).toBe("Sun 27 Sep 2026");
      expect(clock(iso)).toBe("07:40");
    }
    expect(wallTime("2026-09-27T04:40:00Z")).toEqual({ local: "2026-09-27T04:40", offset: "Z" });
    expect(isoOf(wallTime("2026-09-27T07:40:00+03:00"))).toBe("2026-09-27T07:40:00+03:00");
  });

  it("without an offset are refused", () => {
    expect(() => wallTime("2026-09-27T07:40:00")).toThrow("offset");
  });

  it("say how old something is", () => {
    const now = new Date("2026-09-27T12:00:00Z");
    const ago = (minutes: number) => since(new Date(now.getTime() - minutes * 60_000), now);
    expect([-30, 0, 12, 119, 60 * 47, 60 * 72].map(ago)).toEqual([
      "dated ahead of now",
      "as of now",
      "12 min old",
      "2 h old",
      "47 h old",
      "3 days old",
    ]);
  });

  it("say how long ago something was", () => {
    const now = new Date("2026-09-27T12:00:00Z");
    expect(ago(now, now)).toBe("just now");
    expect(ago(new Date("2026-09-27T09:00:00Z"), now)).toBe("3 h ago");
  });
});
