import type { Plan } from "../../../api/client";

/** One way to fly the same session. */
export interface Variant {
  key: string;
  name: string;
  of: (plan: Plan) => Plan;
}

const flown = (plan: Plan, otherwise: Partial<Plan["flight"]>): Plan => ({
  ...plan,
  flight: { ...plan.flight, ...otherwise },
});
/** Where the wind comes from, as far as the plan's first reading tells. */
const upwind = (plan: Plan) => plan.weather.winds[0]!.direction_deg % 360;

export const VARIANTS: Variant[] = [
  { key: "planned", name: "As planned", of: (plan) => plan },
  {
    key: "into",
    name: "Out into the wind",
    of: (plan) => flown(plan, { bearing_deg: upwind(plan) }),
  },
  {
    key: "with",
    name: "Out with the wind",
    of: (plan) => flown(plan, { bearing_deg: (upwind(plan) + 180) % 360 }),
  },
  {
    key: "fast",
    name: "Home in fast mode",
    of: (plan) => flown(plan, { return_mode: "fast" }),
  },
  {
    key: "half",
    name: "Half the distance",
    of: (plan) => flown(plan, { distance_m: plan.flight.distance_m / 2 }),
  },
  {
    key: "low",
    name: "Half the height",
    of: (plan) => flown(plan, { height_m: plan.flight.height_m / 2 }),
  },
];

export const MOST_COMPARED = 3;
