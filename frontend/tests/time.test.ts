import { describe, expect, it } from "vitest";
import { ago, clock, day, isoOf, offsetIn, since, wallIn, wallTime } from "../src/shell/time";

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
      "dated in the future",
      "current",
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

describe("the wall of a time zone", () => {
  it("has its own offset, winter and summer, on both sides of the change", () => {
    expect(offsetIn("Europe/Tallinn", "2026-11-27T08:00")).toBe("+02:00");
    expect(offsetIn("Europe/Tallinn", "2026-06-27T08:00")).toBe("+03:00");
    // The clocks go back at 04:00 on 25 October 2026.
    expect(offsetIn("Europe/Tallinn", "2026-10-25T02:30")).toBe("+03:00");
    expect(offsetIn("Europe/Tallinn", "2026-10-25T04:30")).toBe("+02:00");
    expect(offsetIn("Asia/Kathmandu", "2026-01-01T08:00")).toBe("+05:45");
    expect(offsetIn("America/St_Johns", "2026-01-01T08:00")).toBe("-03:30");
    expect(offsetIn("UTC", "2026-01-01T08:00")).toBe("+00:00");
  });

  it("shows an instant as it stands there", () => {
    const there = wallIn("Europe/Tallinn", "2026-11-27T06:00:00Z");
    expect(there).toEqual({ local: "2026-11-27T08:00", offset: "+02:00" });
    expect(isoOf(wallIn("America/New_York", "2026-06-01T02:15:00+03:00"))).toBe(
      "2026-05-31T19:15:00-04:00",
    );
  });
});
