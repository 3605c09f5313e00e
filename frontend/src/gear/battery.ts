import type { Kept, Plan } from "../api/client";

/** A battery of another size than the aircraft's own is more or less of it: that is its health in a plan. */
export function healthFor(
  battery: { health_pct: number; energy_wh: number },
  aircraft: Plan["aircraft"],
): number {
  const health = (battery.health_pct * battery.energy_wh) / aircraft.battery_wh;
  return Math.min(110, Math.max(1, Math.round(health)));
}

type Evidence = Plan["evidence"];

/** How values are known without what was said of the battery: it is another one, or another flight's. */
export function withoutBattery(plan: Plan): Evidence {
  const evidence = Object.entries((plan.evidence as Evidence | undefined) ?? {});
  return Object.fromEntries(evidence.filter(([key]) => !key.startsWith("pack.")));
}

/** A plan with a battery of the kit. Its charge there is an estimate, so that it is still asked for. */
export function withBattery(plan: Plan, kept: Kept): Plan {
  if (kept.item.kind !== "pack" || !kept.pack) return plan;
  const { health_pct } = kept.item;
  const copied = { how: "copied", source: "kit", at: kept.item.charged_at } as const;
  return {
    ...plan,
    evidence: { ...withoutBattery(plan), "pack.charge_pct": copied },
    pack: {
      ...plan.pack,
      label: kept.name,
      kit: kept.id,
      temperature_c: null,
      charge_pct: Math.round(kept.pack.charge_pct),
      health_pct: healthFor({ health_pct, energy_wh: kept.pack.energy_wh }, plan.aircraft),
    },
  };
}
