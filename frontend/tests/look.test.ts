import { describe, expect, it } from "vitest";
import { heightInFists, quarterOf, turnInWords } from "../src/observer/look";

describe("where to look, in words", () => {
  it("names the nearest of eight points of the compass", () => {
    expect([0, 22, 23, 90, 200, 337, 338, 359].map(quarterOf)).toEqual([
      "North",
      "North",
      "North-east",
      "East",
      "South",
      "North-west",
      "North",
      "North",
    ]);
  });

  it("says the height in fists of ten degrees", () => {
    expect([1, 5, 10, 15, 24, 74, 75, 90].map(heightInFists)).toEqual([
      "just over the horizon",
      "half a fist over the horizon",
      "1 fist over the horizon",
      "1½ fists over the horizon",
      "2½ fists over the horizon",
      "7½ fists over the horizon",
      "almost overhead",
      "almost overhead",
    ]);
  });

  it("says how to turn", () => {
    expect([0, -8, 12, -90, 178, -180].map(turnInWords)).toEqual([
      "Straight ahead",
      "Straight ahead",
      "10° to the right",
      "90° to the left",
      "Behind you",
      "Behind you",
    ]);
  });
});
