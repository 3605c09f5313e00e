import type { Kept, KitItem } from "../api/client";

/** What a new item of each kind begins as; a pack is the first aircraft's. */
export const NEW: Record<KitItem["kind"], (first: Kept | undefined) => KitItem> = {
  aircraft: () => ({
    kind: "aircraft",
    note: "",
    aircraft: {
      name: "",
      kit: null,
      mass_g: 249,
      payload_g: 0,
      size_m: 0.36,
      rotor_count: 4,
      rotor_diameter_m: 0.12,
      consumption_factor: 1,
      max_tilt_deg: 35,
      battery_wh: 18.1,
      hover_time_min: 30,
      speeds_ms: { slow: 6, normal: 10, fast: 16 },
      rth_speed_ms: 9,
      ascent_ms: 4,
      descent_ms: 3,
      max_wind_ms: 10.7,
      temperature_c: [-10, 40],
      link: { band_ghz: 2.4, range_m: 6000 },
      max_takeoff_g: null,
      ceiling_m: null,
      charge_power_w: null,
      region_power_db: 0,
      attachments: [],
    },
  }),
  pack: (first) => ({
    kind: "pack",
    label: "",
    aircraft: first?.id ?? null,
    chemistry: "lipo_hv",
    cells: 2,
    capacity_mah: 2350,
    bought: null,
    cycles: 0,
    health_pct: 100,
    tested_pct: null,
    state: "storage",
    charge_pct: 50,
    charged_at: new Date().toISOString(),
    storage_c: 20,
    note: "",
  }),
  charger: () => ({
    kind: "charger",
    name: "",
    power_w: 45,
    mode: "in_turn",
    takes: "packs",
    slots: 3,
  }),
  device: () => ({ kind: "device", name: "", battery_wh: 18, charge_pct: 50 }),
  bank: () => ({ kind: "bank", name: "", energy_wh: 74, volts: null, amps: null }),
  own: () => ({
    kind: "own",
    name: "",
    count: 1,
    when: "always",
    group: "self",
    days_before: null,
  }),
};

/** The charge that goes with a state, where the state says it. */
export function chargeOf(state: string): number | null {
  return state === "full" ? 100 : state === "storage" ? 50 : null;
}
