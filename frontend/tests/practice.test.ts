import { describe, expect, it } from "vitest";
import { dueIn } from "../src/practice/words";

describe("practice in words", () => {
  const now = new Date("2026-09-27T10:00:00Z");
  const after = (hours: number) => new Date(now.getTime() + hours * 3_600_000).toISOString();

  it("says when a family is due", () => {
    expect([-1, 0, 0.2, 1, 30, 36, 300].map((h) => dueIn(after(h), now))).toEqual([
      "now",
      "now",
      "within the hour",
      "in 1 h",
      "in 30 h",
      "in 2 days",
      "in 13 days",
    ]);
  });
});
