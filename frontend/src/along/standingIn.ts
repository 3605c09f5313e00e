import type { DrillsHere, OnSite, Plan, Result } from "../api/client";

const HOUR_MS = 3_600_000;

/**
 * A verdict that was taken along, at another time: the weather it stands on has aged since, as the check of its age
 * counts it (to the take-off at most). Past what the pilot accepts, not enough is known.
 */
export function weatherTooOld(result: Result, plan: Plan, takenAt: string, now: Date): Result {
  const age = result.checks.find((check) => check.id === "weather.age");
  if (age?.value == null || age.limit == null) return result;
  const takeOff = Date.parse(plan.takeoff_at);
  const since = Math.min(now.getTime(), takeOff) - Math.min(Date.parse(takenAt), takeOff);
  const hours = age.value + Math.max(since, 0) / HOUR_MS;
  if (hours <= age.limit) return result;
  const old: Result["checks"][number] = {
    ...age,
    status: "unknown",
    value: hours,
    used: hours / age.limit,
    sentence:
      `The weather is ${Math.floor(hours)} h old; your limit is ${age.limit} h. ` +
      "Conditions at take-off can’t be known from that.",
  };
  const others = result.checks.filter((check) => check !== age);
  if (result.verdict === "stay")
    return { ...result, checks: result.checks.map((check) => (check === age ? old : check)) };
  return { ...result, verdict: "unknown", checks: [old, ...others] };
}

type DrillPoint = DrillsHere["cards"][number]["points"][number];
type Value = NonNullable<OnSite["gates"][number]["items"][number]["value"]>;

const SET: Partial<Record<Value["kind"], (plan: Plan) => number | boolean | null>> = {
  charge_pct: (plan) => plan.pack.charge_pct,
  pack_temperature_c: (plan) => plan.pack.temperature_c ?? null,
  rth_altitude_m: (plan) => plan.settings.rth_altitude_m,
  satellites: (plan) => plan.settings.satellites ?? null,
  home_point_set: (plan) => plan.settings.home_point_set ?? null,
  compass_checked: (plan) => plan.settings.compass_checked ?? null,
};

/** More of these is never worse. */
const MORE_IS_BETTER: ReadonlySet<Value["kind"]> = new Set(["charge_pct", "satellites"]);

/** Whether two plans differ in nothing but what the preflight itself asks for, and how each figure is known. */
function alikeElse(before: Plan, plan: Plan): boolean {
  const rest = (of: Plan) => {
    const { evidence, pack, settings, ...others } = of;
    void evidence;
    const asked = { charge_pct: 0, temperature_c: null };
    const set = {
      rth_altitude_m: 0,
      satellites: null,
      home_point_set: null,
      compass_checked: null,
    };
    return { ...others, pack: { ...pack, ...asked }, settings: { ...settings, ...set } };
  };
  return JSON.stringify(rest(before)) === JSON.stringify(rest(plan));
}

/** The check that says the same as a value of the preflight. */
const CHECK_OF: Partial<Record<Value["kind"], string>> = {
  charge_pct: "battery.charge",
  pack_temperature_c: "battery.temperature",
  satellites: "signal.satellites",
};

/** What the field tables say of a check: its status and a sentence; null where none covers it. */
export type ByTables = (check: string) => Pick<Value, "status" | "sentence"> | null;

/** What the server said of the plan as it was, for a value as it is now: never better than it would say itself. */
function valueNow(value: Value, before: Plan, plan: Plan, alike: boolean, tables: ByTables): Value {
  const of = SET[value.kind];
  const now = of?.(plan);
  if (of === undefined || now === undefined) return value;
  if (now === of(before) && (alike || value.status === "fail" || typeof now === "boolean"))
    return value;
  if (typeof now === "boolean")
    return now
      ? { ...value, now, status: "pass", sentence: "" }
      : { ...value, now, status: "fail", sentence: "Not done on the aircraft." };
  const was = of(before);
  if (
    alike &&
    MORE_IS_BETTER.has(value.kind) &&
    now !== null &&
    typeof was === "number" &&
    now >= was
  )
    return { ...value, now };
  const check = CHECK_OF[value.kind];
  const said = check !== undefined && now !== null ? tables(check) : null;
  const unchecked = { status: "unknown", sentence: "Not checked: server unavailable." } as const;
  return { ...value, now, ...(said ?? unchecked) };
}

/** Site and preflight as they were taken along, for the plan as it is now. */
export function valuesOf(
  site: OnSite,
  before: Plan,
  plan: Plan,
  tables: ByTables = () => null,
): OnSite {
  const alike = alikeElse(before, plan);
  const gates = site.gates.map((gate) => ({
    ...gate,
    items: gate.items.map((item) => ({
      ...item,
      value: item.value && valueNow(item.value, before, plan, alike, tables),
    })),
  }));
  return { ...site, gates };
}

/** Whether two plans differ in nothing but whether somebody looked for people. */
function alikeButForPeople(before: Plan, plan: Plan): boolean {
  const rest = ({ site, evidence, ...others }: Plan) => {
    void evidence;
    return { ...others, site: { ...site, people_looked_at: null } };
  };
  return JSON.stringify(rest(before)) === JSON.stringify(rest(plan));
}

const PEOPLE = "People";
const WIND = "Wind at its height";

/** The drills as they were taken along, for the plan as it is now: what may start rests on nothing that changed. */
export function drillsOf(here: DrillsHere, before: Plan, plan: Plan, now: Date): DrillsHere {
  const { as_of } = plan.weather;
  const limit_h = plan.minimums?.weather_age_h ?? 12;
  const old = as_of != null && now.getTime() - Date.parse(as_of) > limit_h * HOUR_MS;
  const alike = alikeButForPeople(before, plan);
  const looked = plan.site.people_looked_at != null;
  const pointNow = (point: DrillPoint): DrillPoint => {
    if (alike && point.name === PEOPLE && point.status === "unknown" && looked)
      return { ...point, status: "pass", sentence: "You looked for people: none." };
    const hadLooked = before.site.people_looked_at != null;
    if (point.name === PEOPLE && point.status === "pass" && hadLooked && !looked)
      return { ...point, status: "unknown", sentence: "Check for people first." };
    if (point.status === "fail") return point;
    if (old && point.name === WIND)
      return { ...point, status: "unknown", sentence: `The weather is over ${limit_h} h old.` };
    if (alike) return point;
    return { ...point, status: "unknown", sentence: "Not checked: server unavailable." };
  };
  const cards = here.cards.map((card) => {
    if (card.height_m === null) return card;
    const points = card.points.map(pointNow);
    const has = (status: DrillPoint["status"]) => points.some((p) => p.status === status);
    const status = has("fail")
      ? "fail"
      : has("unknown")
        ? "unknown"
        : has("care")
          ? "care"
          : "pass";
    return { ...card, points, status, may_start: status === "pass" || status === "care" } as const;
  });
  return { ...here, cards };
}
