import type { Plan } from "../../api/client";
import { clock, day } from "../../shell/time";

export function headline(plan: Plan): string {
  const parts = [
    plan.site.name,
    `${day(plan.takeoff_at)}, ${clock(plan.takeoff_at)}`,
    plan.aircraft.name + (plan.pack.label ? ` with battery ${plan.pack.label}` : ""),
  ];
  return parts.filter(Boolean).join(" · ");
}
