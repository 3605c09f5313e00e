import { expect, test } from "vitest";
import { keyWords, refusalWords } from "../src/api/refusals";

test.each([
  ["flight.distance_m", "Distance"],
  ["weather.winds[0].speed_ms", "Winds 1, speed"],
  ["site.obstacles[11].height_m", "Obstacles 12, height"],
  ["pack.charge_pct", "Charge"],
  ["title", "Title"],
])("%s is called %s", (key, words) => expect(keyWords(key)).toBe(words));

test("a fault says what was given and what is needed", () => {
  expect(
    refusalWords({ key: "flight.distance_m", given: "-3", allowed: "a number from 1 to 30,000" }),
  ).toBe("Distance: -3 given; needs a number from 1 to 30,000.");
  expect(
    refusalWords({ key: "file", given: "text that is not JSON", allowed: "a GeoJSON file" }),
  ).toBe("It has text that is not JSON; it needs a GeoJSON file.");
});
