import { describe, expect, it } from "vitest";
import type { Plan } from "../src/api/client";
import { edited, reduce } from "../src/stages/plan/edit";
import { confirmed, howKnown } from "../src/stages/plan/evidence";
import { begin } from "../src/editing/history";

const NOW = new Date("2026-09-26T18:00:00Z");
const wind = (speed_ms: number, source = "forecast") => ({
  height_m: 10,
  speed_ms,
  direction_deg: 240,
  gust_ms: null,
  source,
});

function plan(): Plan {
  return {
    weather: { winds: [wind(3)], temperature_c: 15, kp: 2, provenance: [] },
    pack: { charge_pct: 100, temperature_c: null },
    flight: { distance_m: 100 },
    evidence: {},
  } as unknown as Plan;
}

describe("how a value is known", () => {
  it("is assumed until somebody says it", () => {
    expect(howKnown(plan(), "weather.temperature_c")).toBe("assumed");
    expect(howKnown(plan(), "weather.winds.0")).toBe("assumed");
  });

  it("is typed once it was changed, and of nothing else", () => {
    const after = edited(plan(), ["weather", "temperature_c"], 12, NOW);
    expect(howKnown(after, "weather.temperature_c")).toBe("typed");
    expect(after.evidence["weather.temperature_c"]!.at).toBe(NOW.toISOString());
    expect(howKnown(after, "weather.winds.0")).toBe("assumed");
    expect(edited(plan(), ["flight", "distance_m"], 90, NOW).evidence).toEqual({});
  });

  it("is measured for a reading, which stays with its row when another one goes", () => {
    const winds = [...plan().weather.winds, wind(5, "measured")];
    const two = edited(plan(), ["weather", "winds"], winds, NOW);
    expect(howKnown(two, "weather.winds.0")).toBe("assumed");
    expect(howKnown(two, "weather.winds.1")).toBe("measured");
    const one = edited(two, ["weather", "winds"], [two.weather.winds[1]], NOW);
    expect(howKnown(one, "weather.winds.0")).toBe("measured");
    expect(Object.keys(one.evidence)).toEqual(["weather.winds.0"]);
  });

  it("is the forecast's where that gives the figure, also over what was typed before", () => {
    const typed = edited(plan(), ["weather", "temperature_c"], 12, NOW);
    const provenance = [{ figure: "temperature_c", source: "service", as_of: null }];
    const document = {
      ...typed,
      weather: { ...typed.weather, temperature_c: 9, provenance },
    } as unknown as Plan;
    const after = reduce(begin(typed), { kind: "replace", document }).document;
    expect(howKnown(after, "weather.temperature_c")).toBe("forecast");
    expect(after.evidence).toEqual({});
  });

  it("is typed for a value that somebody stands by, all winds in one touch", () => {
    const after = confirmed(plan(), "weather.winds", NOW);
    expect(howKnown(after, "weather.winds.0")).toBe("typed");
    const kept = edited(plan(), ["evidence"], after.evidence, NOW);
    expect(howKnown(kept, "weather.winds.0")).toBe("typed");
  });
});
