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

  // Values of the transverse Mercator projection by PROJ; the grid's own squares are a metre wide.
  it.each([
    ["35V 388488.18 6499335.40", 58.62, 25.08],
    ["35V 388488 mE 6499335 mN", 58.62, 25.08],
    ["35 n, 388488, 6499335", 58.62, 25.08],
    ["35VLE8848899335", 58.62, 25.08],
    ["35v LE 88488 99335", 58.62, 25.08],
    ["59G 419826 5127641", -44, 170],
    ["30V 587121.5 6498713.8", 58.62, -1.5],
  ])("on the grid: %s", (text, latitude, longitude) => {
    const found = readPosition(text);
    expect(Math.abs(found!.latitude - latitude) * 111_320).toBeLessThan(1.5);
    expect(Math.abs(found!.longitude - longitude) * 58_000).toBeLessThan(1.5);
  });

  it.each([
    "35VLE884993",
    "35VLE8848899",
    "35V 388488",
    "35S 388488 6499335",
    "99V 388488 6499335",
    "35I 388488 6499335",
  ])("is no take-off point on a grid: %s", (text) => expect(readPosition(text)).toBeNull());

  it("is read back as it is written", () => {
    const at = { latitude: -44.12345, longitude: 170.5 };
    expect(readPosition(writtenPosition(at))).toEqual(at);
  });
});
