import { describe, expect, it } from "vitest";
import { readPosition, writtenPosition } from "../src/inputs/position";

describe("a pasted position", () => {
  it.each([
    "58.62, 25.08",
    "58.62 25.08",
    "58,62 25,08",
    "58,62; 25,08",
    "58,62N 25,08E",
    "58.62N 25.08E",
    "25.08E 58.62N",
    "N58.62 E25.08",
    "N 58° 37.2' E 25° 4.8'",
    "58°37'12\"N 25°04'48\"E",
    "58° 37′ 12″ N, 25° 4′ 48″ E",
    "58 37 12 25 4 48",
    "58:37:12N 25:04:48E",
    "geo:58.62,25.08?z=15",
    " 58.62000,25.08000 ",
  ])("%s", (text) => {
    const found = readPosition(text);
    expect(found?.latitude).toBeCloseTo(58.62, 6);
    expect(found?.longitude).toBeCloseTo(25.08, 6);
  });

  it.each([
    ["-44.1, 170.2", -44.1, 170.2],
    ["−44.1, −170.2", -44.1, -170.2],
    ["S44 30 W170 10", -44.5, -170 - 1 / 6],
    ["40° 26′ 46″ N 79° 58′ 56″ W", 40 + 26 / 60 + 46 / 3600, -79 - 58 / 60 - 56 / 3600],
    ["-0.5 -0.25", -0.5, -0.25],
    ["0, 0", 0, 0],
  ])("south and west: %s", (text, latitude, longitude) => {
    const found = readPosition(text);
    expect(found?.latitude).toBeCloseTo(latitude, 6);
    expect(found?.longitude).toBeCloseTo(longitude, 6);
  });

  it.each([
    "",
    "here",
    "58.62",
    "91, 20",
    "20, 181",
    "58 61 0 25 4 48",
    "58.62N 25.08N",
    "58.5 30 25 10",
    "-58N 25E",
    "1 2 3",
  ])("is not guessed: %s", (text) => expect(readPosition(text)).toBeNull());

  it("is read back as it is written", () => {
    const at = { latitude: -44.12345, longitude: 170.5 };
    expect(readPosition(writtenPosition(at))).toEqual(at);
  });
});
