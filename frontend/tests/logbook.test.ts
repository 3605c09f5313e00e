import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { FlightEntry, LogbookSummary } from "../src/api/client";
import { EVERYTHING, queryOf } from "../src/api/flights";
import { dotted, healthAlong, outside } from "../src/logbook/charts";
import { emptyEntry, hours, spent } from "../src/logbook/words";
import { inClock, nearFives, onTheWall } from "../src/flight/words";

type Point = LogbookSummary["points"][number];

const point = (pack: string, planned_pct: number | null, spent_pct: number): Point => ({
  uid: `${pack}${planned_pct}`,
  started_at: "2026-09-26T18:00:00Z",
  pack,
  aircraft: "Dunlin",
  seconds: 600,
  spent_pct,
  planned_pct,
  wind_ms: null,
});

describe("charts", () => {
  test("one odd flight is no dip in a battery's health", () => {
    const usual = Array.from({ length: 7 }, () => point("A", 45, 50));
    const odd = [...usual.slice(0, 3), point("A", 45, 90), ...usual.slice(3)];
    const { packs, flights } = healthAlong(odd);
    expect(flights).toHaveLength(8);
    expect(packs[0]!.values.every((v) => Math.abs(v! - 90) < 1e-9)).toBe(true);
  });

  test("batteries with fewer flights end earlier; flights without a plan or a battery are left out", () => {
    const points = [
      ...Array.from({ length: 4 }, () => point("A", 40, 40)),
      ...Array.from({ length: 2 }, () => point("B", 40, 50)),
      point("C", 40, 40),
      point("A", null, 40),
      point("", 40, 40),
    ];
    const { packs } = healthAlong(points);
    expect(packs.map((p) => p.pack)).toEqual(["A", "B"]);
    expect(packs[1]!.values).toEqual([80, 80, null, null]);
  });

  const band = Array.from({ length: 21 }, (_, n) => [5 * n, 5 * n - 4, 5 * n + 6]);

  test("flights above the band are counted, between its steps too", () => {
    const points = [
      point("A", 52, 57.9),
      point("B", 52, 58.1),
      point("C", 0, 7),
      point("D", 140, 99),
    ];
    expect(outside(points, band)).toBe(2);
  });

  test("the band's dots lie in what is shown", () => {
    const dots = dotted(band, 60);
    expect(dots.length).toBeGreaterThan(60);
    expect(dots.every((d) => d.x <= 60 && d.y <= 60)).toBe(true);
    expect(new Set(dots.map((d) => d.id)).size).toBe(dots.length);
  });
});

describe("words", () => {
  test("times", () => {
    expect(inClock(0)).toBe("0:00");
    expect(inClock(59.6)).toBe("1:00");
    expect(inClock(-5)).toBe("0:00");
    expect(inClock(3725)).toBe("62:05");
    expect(hours(5040)).toBe("1 h 24 min");
    expect(hours(3570)).toBe("1 h 0 min");
    expect(onTheWall(new Date(2026, 8, 26, 23, 59, 30), 45)).toBe("00:00");
  });

  test("the charges that are one touch away hold what is expected, and never rise", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 0, max: 100 }), (a, b) => {
        const [expected, last] = [Math.min(a, b), Math.max(a, b)];
        const values = nearFives(expected, last, 7);
        expect(values.every((v) => v % 5 === 0 && v >= 0 && v < last + 5)).toBe(true);
        expect(values.some((v) => Math.abs(v - expected) <= 5)).toBe(true);
      }),
    );
  });

  test("what was spent is known with both charges only", () => {
    const entry: FlightEntry = emptyEntry(new Date());
    expect(spent(entry)).toBeNull();
    expect(spent({ ...entry, charge_from_pct: 98, charge_to_pct: 60 })).toBe(38);
  });

  test("a filter's last day counts whole", () => {
    const asked = queryOf({
      ...EVERYTHING,
      text: "heron",
      since: "2026-09-01",
      until: "2026-09-01",
    });
    expect(Object.keys(asked).sort()).toEqual(["since", "text", "until"]);
    expect(Date.parse(asked.until!) - Date.parse(asked.since!)).toBe(86_400_000);
  });
});
