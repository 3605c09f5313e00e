import { describe, expect, it } from "vitest";
import type { FlightCard } from "../src/api/client";
import { clockState } from "../src/flight/clock";
import { againstBySpeeds, cardInWind, reachNow, rowFor, windByLean } from "../src/flight/windMet";
import cases from "./clock.cases.json";

const card = (cases as unknown as { cards: FlightCard[] }).cards.find((c) => c.home !== null)!;
const still = { at_s: 100, distance_m: 200, readings: [], turned_s: null, hopeful: false };

describe("the wind that is met in the air", () => {
  it("is half the difference of full-stick ground speeds", () => {
    expect(againstBySpeeds(10, 22)).toBe(6);
    expect(againstBySpeeds(20, 12)).toBe(-4);
  });

  it("is not told where ground speed was held", () => {
    expect(againstBySpeeds(10, 10)).toBeNull();
    expect(againstBySpeeds(10, 10.9)).toBeNull();
    expect(againstBySpeeds(10, 11.2)).not.toBeNull();
  });

  it("follows the tilt by the drag law of the core", () => {
    expect(windByLean(card, 0)).toBe(0);
    expect(windByLean(card, 20) / windByLean(card, 10)).toBeCloseTo(
      Math.sqrt(Math.tan(Math.PI / 9) / Math.tan(Math.PI / 18)),
    );
    expect(
      windByLean({ ...card, lean_ms: 16 / Math.sqrt(Math.tan((35 * Math.PI) / 180)) }, 10),
    ).toBeCloseTo(8.03, 1);
  });

  it("takes the next stronger row, never a weaker one", () => {
    expect(rowFor(card, 3)!.against_ms).toBe(3);
    expect(rowFor(card, 3.1)!.against_ms).toBe(4);
    expect(rowFor(card, 99)).toBeNull();
  });

  it("turns back earlier the more of it stands against the way home", () => {
    const turns = [0, 2, 4, 6].map((w) => clockState(cardInWind(card, w), still).turn_back_pct!);
    expect([...turns].sort((a, b) => a - b)).toEqual(turns);
    expect(turns[3]).toBeGreaterThan(turns[0]!);
    expect(clockState(cardInWind(card, 99), still).turn_back_pct).toBeNull();
    expect(cardInWind(card, null)).toBe(card);
  });

  it("comes home from as far as the charge allows", () => {
    const home = card.home!;
    const far = reachNow(card, card.reserve_pct + home.fixed_pct + home.pct_per_m * 500)!;
    expect(far).toBeCloseTo(500);
    expect(reachNow(card, card.reserve_pct)).toBe(0);
    expect(reachNow({ ...card, home: null }, 90)).toBeNull();
  });
});
