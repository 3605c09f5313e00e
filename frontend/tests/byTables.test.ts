import { describe, expect, it } from "vitest";
import type { Plan, Result } from "../src/api/client";
import { byTables, lookedUpFor, type TablesTaken } from "../src/along/byTables";
import type { FieldTables } from "../src/along/fieldTables";

const AT = "2026-09-27T04:00:00.000Z";
const plan = {
  title: "Bog",
  takeoff_at: "2026-09-27T07:40:00+03:00",
  evidence: { "pack.charge_pct": { how: "typed", at: AT, source: null } },
  weather: {
    winds: [{ height_m: 10, speed_ms: 3, direction_deg: 240, gust_ms: 5, source: "forecast" }],
    as_of: AT,
    provenance: [{ figure: "winds", source: "m", as_of: AT }],
    temperature_c: 8,
  },
  pack: { charge_pct: 100, temperature_c: null, health_pct: 95 },
  flight: { distance_m: 180, height_m: 40, bearing_deg: 240 },
  settings: {
    rth_altitude_m: 40,
    satellites: null,
    home_point_set: null,
    compass_checked: null,
    lost_link: "return",
  },
} as unknown as Plan;

const values = {
  "pack.charge_pct": 100,
  "pack.temperature_c": null,
  "flight.distance_m": 180,
  "flight.height_m": 40,
  "settings.rth_altitude_m": 40,
  "settings.satellites": null,
  "settings.home_point_set": null,
  "settings.compass_checked": null,
};

/** As planned: the charge is within its limit down to 80 %, care to 60 %, and no more below. */
const still = {
  source: null,
  height_m: null,
  values,
  planned: { "wind.gust": 1 },
  shapes: [
    {
      key: null,
      value: null,
      grid: {
        speeds_ms: [0],
        directions_deg: [0],
        charges_pct: [100, 80, 60, 40],
        checks: { "battery.budget": "0013" },
        gust_speeds_ms: [0],
        excesses_ms: [null],
        gusts: {},
      },
    },
  ],
  lines: [],
  usable: [],
} as unknown as FieldTables;

/** By a meter at 2 m: over 4 m/s the wind is too strong, from any side. */
const meter = {
  ...still,
  source: "measured",
  height_m: 2,
  shapes: [
    {
      key: null,
      value: null,
      grid: {
        speeds_ms: [0, 2, 4, 6],
        directions_deg: [0, 90, 180, 270],
        charges_pct: [100, 40],
        checks: { "battery.budget": "01".repeat(16) },
        gust_speeds_ms: [0, 2, 4, 6],
        excesses_ms: [null, 0, 15],
        gusts: { "wind.gust": "000000000333", "wind.steady": "000000000333" },
      },
    },
  ],
} as unknown as FieldTables;

const taken: TablesTaken[] = [
  { plan, tables: still },
  { plan, tables: meter },
];
const measured = (speed_ms: number, height_m = 2) => ({
  height_m,
  speed_ms,
  direction_deg: 250,
  gust_ms: speed_ms + 1,
  source: "measured",
  at: AT,
});
const withWinds = (...winds: object[]) =>
  ({
    ...plan,
    evidence: { ...plan.evidence, "weather.winds.1": { how: "measured", at: AT, source: null } },
    weather: {
      ...plan.weather,
      provenance: plan.weather.provenance,
      as_of: "2026-09-27T04:30:00.000Z",
      winds: [...plan.weather.winds, ...winds],
    },
  }) as unknown as Plan;
const withCharge = (charge_pct: number) => ({ ...plan, pack: { ...plan.pack, charge_pct } });

const check = (id: string, status: string) =>
  ({ id, label: id, status, value: 1, used: 0.5, sentence: "", working: [] }) as unknown;
const result = {
  verdict: "care",
  tightest: "wind.gust",
  checks: [
    check("wind.gust", "care"),
    check("battery.budget", "pass"),
    check("wind.steady", "pass"),
  ],
  questions: [],
  energy: { landing_pct: 50 },
} as unknown as Result;

describe("the verdict by tables", () => {
  it("looks up the charge at the next node that is no better", () => {
    expect(lookedUpFor(taken, withCharge(85))?.statuses["battery.budget"]).toBe(0);
    expect(lookedUpFor(taken, withCharge(79))?.statuses["battery.budget"]).toBe(1);
    expect(lookedUpFor(taken, withCharge(30))).toBeNull();
  });

  it("looks a reading up at or under its height, and says nothing of one below all tables", () => {
    expect(lookedUpFor(taken, withWinds(measured(1)))?.statuses["wind.gust"]).toBe(0);
    expect(lookedUpFor(taken, withWinds(measured(5)))?.statuses["wind.steady"]).toBe(3);
    expect(lookedUpFor(taken, withWinds(measured(5, 3)))?.statuses["wind.steady"]).toBe(3);
    expect(lookedUpFor(taken, withWinds(measured(1, 1)))).toBeNull();
    // Of two at one height the stronger counts.
    expect(lookedUpFor(taken, withWinds(measured(5), measured(1)))?.statuses["wind.steady"]).toBe(
      3,
    );
  });

  it("knows nothing of what no table was made for", () => {
    expect(lookedUpFor(taken, { ...plan, site: { indoors: false } } as unknown as Plan)).toBeNull();
    const stronger = { ...plan.weather.winds[0]!, speed_ms: 1 };
    const typed = { ...plan, weather: { ...plan.weather, winds: [stronger] } };
    expect(lookedUpFor(taken, typed)).toBeNull();
    const hovered = { ...measured(1, 40), source: "hover" };
    expect(lookedUpFor(taken, withWinds(hovered))).toBeNull();
    expect(lookedUpFor([], plan)).toBeNull();
    // Nobody has said what the battery reads.
    const { evidence, ...unsaid } = withCharge(95);
    void evidence;
    expect(lookedUpFor(taken, unsaid as Plan)).toBeNull();
    const warm = { ...plan, pack: { ...plan.pack, temperature_c: 20 } };
    expect(lookedUpFor([{ plan: warm, tables: still }], warm)).toBeNull();
    // A reading that nobody stands by; and one that somebody does, beside a wind that nobody has said.
    const { evidence: said, ...read } = withWinds(measured(1));
    const charge = { "pack.charge_pct": said["pack.charge_pct"]! };
    const typed0 = { ...read.weather, provenance: [] };
    expect(lookedUpFor(taken, { ...read, weather: typed0, evidence: charge } as Plan)).toBeNull();
    const both = { ...charge, "weather.winds.1": said["weather.winds.1"]! };
    expect(lookedUpFor(taken, { ...read, evidence: both } as Plan)).not.toBeNull();
    // What nobody stands by any more, though somebody did when the tables were made.
    const stood = { ...plan.evidence, "weather.temperature_c": plan.evidence["pack.charge_pct"]! };
    const confirmed = { ...plan, evidence: stood };
    const made: TablesTaken[] = [{ plan: confirmed, tables: still }];
    expect(lookedUpFor(made, confirmed)).not.toBeNull();
    expect(lookedUpFor(made, plan)).toBeNull();
    // Made for two plans.
    expect(lookedUpFor([taken[0]!, { plan: withCharge(90), tables: meter }], plan)).toBeNull();
  });

  it("does not go by a reading that gave way and may have made it look better", () => {
    const of = (...winds: object[]): TablesTaken[] =>
      taken.map(({ tables }) => ({ plan: withWinds(...winds), tables }));
    // Measured again at the same height: what was there only adds to it.
    expect(lookedUpFor(of(measured(1)), withWinds(measured(2)))).not.toBeNull();
    expect(lookedUpFor(of(measured(1)), withWinds(measured(2, 4)))).toBeNull();
    expect(lookedUpFor(of(measured(1)), plan)).toBeNull();
    const hovered = { ...measured(1, 40), source: "hover" };
    expect(lookedUpFor(of(hovered), plan)).toBeNull();
    expect(lookedUpFor(of(hovered), withWinds(measured(1)))).toBeNull();
  });

  it("puts the verdict together, the deciding check first, without what was computed of another flight", () => {
    const said = byTables(result, lookedUpFor(taken, withWinds(measured(5)))!, AT)!;
    expect(said.verdict).toBe("stay");
    expect(said.checks[0]!.id).toBe(said.tightest);
    expect(said.checks[0]).toMatchObject({ status: "fail", value: null });
    expect(said.checks[0]!.sentence).toMatch(/^Over its limit by the tables of \d\d:\d\d\.$/);
    expect(said.energy).toBeNull();
    expect(said.tables_of).toBe(AT);
    const fine = byTables(result, lookedUpFor(taken, withWinds(measured(1)))!, AT)!;
    expect(fine.verdict).toBe("launch");
    // What no row can name cannot be left out of it either.
    const without = { ...result, checks: result.checks.slice(0, 2) };
    expect(byTables(without, lookedUpFor(taken, withWinds(measured(5)))!, AT)).toBeNull();
  });
});
