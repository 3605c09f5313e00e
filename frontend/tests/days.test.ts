import { describe, expect, it } from "vitest";
import type { SessionSummary } from "../src/api/client";
import { dates, daysAhead } from "../src/sessions/days";

const NOW = new Date(2030, 8, 26, 15, 0);
const session = (id: number, takeoff_at: string) => ({ id, takeoff_at }) as SessionSummary;
const window = (begin: string, end: string) => ({ begin, end }) as never;

describe("the week ahead", () => {
  it("has seven days from today, over the end of a month", () => {
    expect(dates(NOW)).toEqual([
      "2030-09-26", "2030-09-27", "2030-09-28", "2030-09-29", "2030-09-30", "2030-10-01", "2030-10-02",
    ]); // prettier-ignore
  });

  it("stands a session at the hour by the clock at its place", () => {
    const days = daysAhead([session(1, "2030-09-27T06:30:00+09:00")], [], NOW);
    expect(days[1]!.marks).toEqual([
      { session: session(1, "2030-09-27T06:30:00+09:00"), hour: 6.5, row: 0 },
    ]);
    expect(days.filter((d) => d.marks.length)).toHaveLength(1);
  });

  it("puts what is close in time one above the other, and what is not in one row", () => {
    const at = (h: string) => `2030-09-27T${h}:00+03:00`;
    const days = daysAhead(
      [session(1, at("09:00")), session(2, at("09:45")), session(3, at("10:30")), session(4, at("14:00"))],
      [],
      NOW,
    ); // prettier-ignore
    expect(days[1]!.marks.map((m) => m.row)).toEqual([0, 1, 2, 0]);
  });

  it("cuts a window at midnight", () => {
    const days = daysAhead(
      [],
      [window("2030-09-26T22:00:00+03:00", "2030-09-27T01:30:00+03:00")],
      NOW,
    );
    expect(days[0]!.windows).toEqual([{ from: 22, to: 24 }]);
    expect(days[1]!.windows).toEqual([{ from: 0, to: 1.5 }]);
    expect(days[2]!.windows).toEqual([]);
  });
});
