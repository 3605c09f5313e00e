import type { Plan } from "../../api/client";
import { same } from "../../editing/merge";

type Evidence = Plan["evidence"];
type How = Evidence[string]["how"];

const WINDS = "weather.winds";
/** Figures that decide and have to be said by somebody, by the key paths of the plan. */
const FIGURES: ["weather" | "pack", string][] = [
  ["weather", "temperature_c"],
  ["weather", "dew_point_c"],
  ["weather", "visibility_m"],
  ["weather", "precipitation"],
  ["weather", "kp"],
  ["weather", "cloud_base_m"],
  ["pack", "charge_pct"],
  ["pack", "temperature_c"],
];

const HOW: Record<How, string> = {
  default: "assumed",
  typed: "typed",
  forecast: "forecast",
  measured: "measured",
  read: "read",
  copied: "copied",
};

const evidenceOf = (plan: Plan): Evidence => (plan.evidence as Evidence | undefined) ?? {};
const row = (n: number) => `${WINDS}.${n}`;
const said = (how: How, at: string): Evidence[string] => ({ how, at, source: null });

/** How a value is known, in one word. */
export function howKnown(plan: Plan, key: string): string {
  const steps = key.split(".");
  const evidence = evidenceOf(plan);
  for (let n = steps.length; n > 0; n--) {
    const found = evidence[steps.slice(0, n).join(".")];
    if (found) return HOW[found.how];
  }
  const figure = steps[0] === "weather" ? steps[1] : undefined;
  return plan.weather.provenance?.some((p) => p.figure === figure) ? HOW.forecast : HOW.default;
}

/** Figures of the weather that the pilot typed, measured or read, whatever a forecast says. */
export function byHand(plan: Plan): string[] {
  const said = (key: string) => ["typed", "measured", "read"].includes(howKnown(plan, key));
  const figures = FIGURES.filter(
    ([part, figure]) => part === "weather" && said(`weather.${figure}`),
  );
  const winds = plan.weather.winds.some((_, n) => said(row(n)));
  return [...(winds ? ["winds"] : []), ...figures.map(([, figure]) => figure)];
}

/** What a change says of its values: what was changed is typed, or measured where the reading says so. */
export function withEvidence(before: Plan, after: Plan, now: Date): Plan {
  if (before.weather === after.weather && before.pack === after.pack) return after;
  // Whoever changed the evidence too knows better.
  if (!same(evidenceOf(before), evidenceOf(after))) return after;
  const evidence = new Map(
    Object.entries(evidenceOf(after)).filter(([key]) => !key.startsWith(`${WINDS}.`)),
  );
  const at = now.toISOString();
  const from = (figure: string) => after.weather.provenance?.some((p) => p.figure === figure);
  for (const [part, figure] of FIGURES) {
    const key = `${part}.${figure}`;
    const value = (plan: Plan) => (plan[part] as Record<string, unknown>)[figure];
    if (part === "weather" && from(figure)) evidence.delete(key);
    else if (!same(value(before), value(after))) evidence.set(key, said("typed", at));
  }
  after.weather.winds.forEach((wind, n) => {
    const was = before.weather.winds.findIndex((other) => other === wind || same(other, wind));
    const kept = was < 0 ? undefined : evidenceOf(before)[row(was)];
    if (kept) evidence.set(row(n), kept);
    else if (was < 0 && !from("winds"))
      evidence.set(row(n), said(wind.source === "forecast" ? "typed" : "measured", at));
  });
  return { ...after, evidence: Object.fromEntries(evidence) };
}

/** A plan in which somebody stands by a value that was only assumed. */
export function confirmed(plan: Plan, key: string, now: Date): Plan {
  const keys = key === WINDS ? plan.weather.winds.map((_, n) => row(n)) : [key];
  const typed = said("typed", now.toISOString());
  return {
    ...plan,
    evidence: { ...evidenceOf(plan), ...Object.fromEntries(keys.map((k) => [k, typed])) },
  };
}

/** Key paths of what decides and was said by nobody; what is not known at all is not among them. */
export function unconfirmed(plan: Plan): string[] {
  const unsaid = (key: string) => [HOW.default, HOW.copied].includes(howKnown(plan, key));
  const winds = plan.weather.winds.some((_, n) => unsaid(row(n)));
  const figures = FIGURES.filter(([part, figure]) => {
    const value = (plan[part] as Record<string, unknown>)[figure];
    return value != null && unsaid(`${part}.${figure}`);
  });
  return [...(winds ? [WINDS] : []), ...figures.map(([part, figure]) => `${part}.${figure}`)];
}
