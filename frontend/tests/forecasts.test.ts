import { describe, expect, it } from "vitest";
import type { Watched } from "../src/api/client";
import { changeWords, foundWords } from "../src/forecasts/words";

type Found = Watched["found"];

const at = (clock: string) => `2026-09-27T${clock}:00+03:00`;

function found(change: Partial<Found> = {}, ...windows: [string, string, string | null][]): Found {
  return {
    verdict: "launch",
    label: "Sight",
    status: "pass",
    windows: windows.map(([begin, end, closes]) => ({ begin: at(begin), end: at(end), closes })),
    source: "Model",
    issued_at: "2026-09-26T18:00:00Z",
    revision: 1,
    ...change,
  };
}

describe("what was found of a session", () => {
  it("says the verdict and the day's windows", () => {
    const one = found({}, ["09:00", "12:30", "Wind, gusts"]);
    expect(foundWords(one)).toBe("within limits; open 09:00 to 12:30");
    expect(foundWords(found({ verdict: "stay", label: "Wind, gusts" }))).toBe(
      "don’t launch (wind, gusts); no launch window that day",
    );
  });

  it("says what changed, and no more", () => {
    const before = found({}, ["09:00", "12:30", "Daylight"]);
    expect(changeWords(before, found({}, ["09:00", "10:30", "Wind, gusts"]))).toBe(
      "closes at 10:30 instead of 12:30, wind, gusts",
    );
    expect(changeWords(before, found({}, ["09:30", "12:30", "Daylight"]))).toBe(
      "opens at 09:30 instead of 09:00",
    );
    expect(changeWords(before, found({ verdict: "stay", label: "Ice" }))).toBe(
      "now don’t launch: ice; no launch window any more",
    );
    expect(changeWords(found(), found({}, ["09:00", "12:30", null]))).toBe(
      "a window opens, 09:00 to 12:30",
    );
    const two = found({}, ["09:00", "10:00", "Rain"], ["11:00", "12:30", "Daylight"]);
    expect(changeWords(before, two)).toBe("2 windows: 09:00 to 10:00, 11:00 to 12:30");
    expect(changeWords(before, found({ revision: 2 }, ["09:00", "12:30", "Daylight"]))).toBe(
      "you changed the plan: within limits; open 09:00 to 12:30",
    );
    expect(changeWords(before, before)).toBe("within limits; open 09:00 to 12:30");
  });
});
