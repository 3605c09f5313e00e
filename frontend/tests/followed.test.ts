import { describe, expect, it } from "vitest";
import type { Plan } from "../src/api/client";
import { byHand } from "../src/stages/plan/evidence";
import { backToForecast, followed, withoutForecast } from "../src/stages/plan/when/followed";

const from = (figure: string) => ({ figure, source: "service", as_of: null });
const wind = (speed_ms: number) => ({
  height_m: 10,
  speed_ms,
  direction_deg: 240,
  source: "forecast",
});

const plan = {
  weather: {
    winds: [wind(3)],
    temperature_c: 4,
    kp: 2,
    report: 7,
    provenance: [from("winds"), from("kp")],
  },
  pack: { charge_pct: 100 },
  evidence: { "weather.temperature_c": { how: "typed", at: null, source: null } },
} as unknown as Plan;

const forecast = {
  winds: [wind(9)],
  temperature_c: 12,
  kp: 5,
  report: 7,
  provenance: [from("winds"), from("temperature_c"), from("kp")],
} as unknown as Plan["weather"];

describe("weather that follows the take-off time", () => {
  it("takes the forecast's figures and leaves what was typed", () => {
    const { weather } = followed(plan, forecast);
    expect(weather.winds[0]!.speed_ms).toBe(9);
    expect(weather.kp).toBe(5);
    expect(weather.temperature_c).toBe(4);
    expect(weather.provenance!.map((p) => p.figure)).toEqual(["winds", "kp"]);
    expect(byHand(followed(plan, forecast))).toEqual(["temperature_c"]);
  });

  it("goes back to the forecast for all of them", () => {
    const back = backToForecast(plan, forecast);
    expect(back.weather).toEqual(forecast);
    expect(byHand(back)).toEqual([]);
  });

  it("leaves figures that are nobody's where the forecast says nothing about the time", () => {
    const { weather } = withoutForecast(plan);
    expect(weather.report).toBeNull();
    expect(weather.provenance).toEqual([]);
  });
});
