import type { components } from "../api/schema";
import type { Plan, Result } from "../api/client";
import { byHand, unconfirmed } from "../stages/plan/evidence";
import { clock, hereAt, isoOf } from "../shell/time";
import {
  lookUp,
  type FieldTables,
  type LookedUp,
  type TableKey,
  type TableValue,
} from "./fieldTables";

export type TablesTaken = components["schemas"]["FieldTablesOut"];
type Wind = Plan["weather"]["winds"][number];

/** A hover reading counts in full for so long before the flight [ms]. */
const HOVER_MS = 30 * 60_000;

const read: Record<TableKey, (plan: Plan) => TableValue> = {
  "pack.charge_pct": (plan) => plan.pack.charge_pct,
  "pack.temperature_c": (plan) => plan.pack.temperature_c ?? null,
  "flight.distance_m": (plan) => plan.flight.distance_m,
  "flight.height_m": (plan) => plan.flight.height_m,
  "settings.rth_altitude_m": (plan) => plan.settings.rth_altitude_m,
  "settings.satellites": (plan) => plan.settings.satellites ?? null,
  "settings.home_point_set": (plan) => plan.settings.home_point_set ?? null,
  "settings.compass_checked": (plan) => plan.settings.compass_checked ?? null,
};
const KEYS = Object.keys(read) as TableKey[];
/** What the tables take as said though nobody may have said it. */
const READ_HERE: ReadonlySet<string> = new Set(["pack.charge_pct", "pack.temperature_c"]);

/** What is left of a plan without all that the tables cover, and without how each figure is known. */
function rest({ evidence, ...plan }: Plan): string {
  void evidence;
  const { winds, as_of, provenance, ...weather } = plan.weather;
  void [winds, as_of];
  const figures = provenance?.filter(({ figure }) => figure !== "winds");
  const { charge_pct, temperature_c, ...pack } = plan.pack;
  const { distance_m, height_m, ...flight } = plan.flight;
  const { rth_altitude_m, satellites, home_point_set, compass_checked, ...settings } =
    plan.settings;
  void [charge_pct, temperature_c, distance_m, height_m];
  void [rth_altitude_m, satellites, home_point_set, compass_checked];
  return JSON.stringify({ ...plan, weather: { ...weather, figures }, pack, flight, settings });
}

const alike = (a: Wind, b: Wind) =>
  a.height_m === b.height_m &&
  a.speed_ms === b.speed_ms &&
  a.direction_deg === b.direction_deg &&
  (a.gust_ms ?? null) === (b.gust_ms ?? null) &&
  a.source === b.source;

/** Winds that a plan has and another does not. */
const beyond = (winds: Wind[], others: Wind[]) =>
  winds.filter((wind) => !others.some((other) => alike(wind, other)));

/** The tables that are made for a reading at its height; null where none are. */
function tablesFor(wind: Wind, plan: Plan, all: FieldTables[]): FieldTables | null {
  const ofSource = all.filter(({ source }) => source === wind.source);
  if (wind.source === "hover") {
    const read = wind.at ? Date.parse(wind.at) : NaN;
    const fresh = Math.abs(Date.parse(plan.takeoff_at) - read) <= HOVER_MS;
    return (fresh && ofSource.find(({ height_m }) => height_m === wind.height_m)) || null;
  }
  // Carried up from further below a wind is only the stronger.
  const under = ofSource.filter(({ height_m }) => height_m !== null && height_m <= wind.height_m);
  return under.sort((a, b) => b.height_m! - a.height_m!)[0] ?? null;
}

const hovers = (winds: Wind[]) => winds.some(({ source }) => source === "hover");

/**
 * Whether the tables, which keep every reading that there was, are no better for it. A reading by hand that gave way
 * to another one at its height only adds to that. Without a forecast or a reading in the hover it may blow harder, and
 * of two readings in the hover the tables may have taken the other for the newer.
 */
function keptBeside(before: Plan, added: Wind[], gone: Wind[]): boolean {
  if ([...added, ...gone].some(({ source }) => source === "forecast")) return false;
  if (hovers(gone) || (hovers(added) && hovers(before.weather.winds))) return false;
  return gone.every((wind) =>
    added.some(({ source, height_m }) => source === wind.source && height_m === wind.height_m),
  );
}

/**
 * Whether somebody stands by all that the tables take as said: what is read on site (a wind as soon as one of them is,
 * as the core has it), and every figure that somebody stood by when they were made.
 */
function stoodBy(before: Plan, plan: Plan, added: Wind[]): boolean {
  if (added.length > 0 && !byHand(plan).includes("winds")) return false;
  const then = new Set(unconfirmed(before));
  const open = unconfirmed(plan).filter((key) => key !== "weather.winds" || added.length === 0);
  return open.every((key) => then.has(key) && !READ_HERE.has(key));
}

/** What the tables that are along say of a plan as it is now; null where they do not cover what has changed. */
export function lookedUpFor(taken: TablesTaken[], plan: Plan): LookedUp | null {
  const [first] = taken;
  if (!first || rest(first.plan) !== rest(plan)) return null;
  const before = first.plan;
  // The four may have been made of one plan only: a change came between them.
  if (taken.some((one) => JSON.stringify(one.plan) !== JSON.stringify(before))) return null;
  const all = taken.flatMap(({ tables }) => (tables ? [tables] : []));
  const changed = Object.fromEntries(KEYS.map((key) => [key, read[key](plan)]));
  const added = beyond(plan.weather.winds, before.weather.winds);
  const gone = beyond(before.weather.winds, plan.weather.winds);
  if (!keptBeside(before, added, gone) || !stoodBy(before, plan, added)) return null;
  const still = all.find(({ source }) => source === null);
  if (added.length === 0)
    return still ? lookUp(still, { speed_ms: 0, direction_deg: 0, gust_ms: null, changed }) : null;
  const found = strongest(added).map((wind) => {
    const tables = tablesFor(wind, plan, all);
    const { speed_ms, direction_deg } = wind;
    return (
      tables && lookUp(tables, { speed_ms, direction_deg, gust_ms: wind.gust_ms ?? null, changed })
    );
  });
  return found.some((one) => one === null) ? null : found.map((one) => one!).reduce(worse);
}

/** Of readings of one source at one height, the strongest; in the hover the last. */
function strongest(winds: Wind[]): Wind[] {
  const kept = new Map<string, Wind>();
  for (const wind of winds) {
    const key = wind.source === "hover" ? "hover" : `${wind.source} ${wind.height_m}`;
    const rival = kept.get(key);
    if (!rival || wind.source === "hover" || wind.speed_ms > rival.speed_ms) kept.set(key, wind);
  }
  return [...kept.values()];
}

/** The worse of each; what only one of two tables was asked about counts as that one has it. */
function worse(a: LookedUp, b: LookedUp): LookedUp {
  const checks = new Set([...Object.keys(a.statuses), ...Object.keys(b.statuses)]);
  const statuses: Record<string, number> = {};
  for (const check of checks)
    statuses[check] = Math.max(a.statuses[check] ?? 0, b.statuses[check] ?? 0);
  return { statuses, touched: new Set([...a.touched, ...b.touched]) };
}

export const STATUSES = ["pass", "care", "unknown", "fail"] as const;
const VERDICTS = ["launch", "care", "unknown", "stay"] as const;
const SAYS = [
  "Within its limit by the tables",
  "Caution by the tables",
  "Not known by the tables",
  "Over its limit by the tables",
] as const;

/** A sentence for a status that was looked up. at: when the tables were taken along. */
export const saidByTables = (status: number, at: string) =>
  `${SAYS[status]} of ${clock(isoOf(hereAt(new Date(at))))}.`;

/** A result as it was taken along, with what the tables say in place of what they were asked about. */
export function byTables(
  result: Result,
  { statuses, touched }: LookedUp,
  at: string,
): Result | null {
  const known = new Set(result.checks.map(({ id }) => id));
  // What was no matter of the plan and is now could not even be named.
  if (Object.entries(statuses).some(([check, status]) => status > 0 && !known.has(check)))
    return null;
  // What does not count yet keeps its place: only what counts is looked at.
  const counts = ({ id }: Result["checks"][number]) => statuses[id] ?? 0;
  const checks = result.checks
    .map((check) => {
      if (!touched.has(check.id)) return check;
      const status = statuses[check.id] ?? 0;
      return {
        ...check,
        status: STATUSES[status]!,
        value: null,
        used: null,
        shown: "by tables",
        spread: null,
        working: [],
        levers: [],
        sentence: saidByTables(status, at),
      };
    })
    .sort((a, b) => counts(b) - counts(a));
  const worst = Math.max(0, ...Object.values(statuses));
  return {
    ...result,
    verdict: VERDICTS[worst]!,
    tightest: checks[0]!.id,
    checks,
    // What was computed of the flight as it was says nothing of this one.
    wind: null,
    energy: null,
    other_way: null,
    turn_back: null,
    reach: null,
    chance: null,
    best_way_home: null,
    questions: result.questions.filter(({ id }) => !touched.has(id) || statuses[id] === 2),
    tables_of: at,
  };
}
