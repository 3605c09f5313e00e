import { expect, it } from "vitest";
import type { Kept, Plan } from "../src/api/client";
import { withBattery } from "../src/gear/battery";
import { unconfirmed } from "../src/stages/plan/evidence";
import { reduce } from "../src/stages/plan/edit";
import { begin } from "../src/editing/history";

const read = { how: "read", source: null, at: null } as const;
const plan = {
  aircraft: { battery_wh: 20 },
  pack: { label: "A", kit: 3, charge_pct: 100, health_pct: 92, temperature_c: 18 },
  weather: { winds: [], provenance: [] },
  evidence: { "pack.charge_pct": read, "pack.temperature_c": read },
} as unknown as Plan;
const other = {
  id: 4,
  name: "B",
  item: { kind: "pack", health_pct: 90, charged_at: "2026-09-20T10:00:00Z" },
  pack: { charge_pct: 97.6, energy_wh: 40 },
} as unknown as Kept;

it("a battery of the kit comes with an estimate of its charge, which nobody has read", () => {
  const taken = withBattery(plan, other);
  expect(taken.pack).toEqual({
    label: "B",
    kit: 4,
    charge_pct: 98,
    health_pct: 110,
    temperature_c: null,
  });
  expect(taken.evidence["pack.charge_pct"]?.how).toBe("copied");
  expect(taken.evidence["pack.temperature_c"]).toBeUndefined();
  expect(unconfirmed(taken)).toContain("pack.charge_pct");
});

it("and taking it is not saying it, by the way of the editor either", () => {
  const { document } = reduce(begin(plan), {
    kind: "replace",
    document: withBattery(plan, other),
  });
  expect(document.evidence["pack.charge_pct"]?.how).toBe("copied");
});
