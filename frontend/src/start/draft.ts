import type { Aircraft, Plan } from "../api/client";
import { number, drop, keep, kept } from "../shell/device";

/** What has been said on the way to the first verdict; null: not said. Kept on the device until it is done. */
export interface Draft {
  /** Which typical class the aircraft begins as, by its label. */
  like: string | null;
  name: string;
  sheet: Partial<Record<SheetKey, number>>;
  packs: number;
  cells: number;
  charge_pct: number | null;
  place: string;
  /** Number of a drawn place that was taken from a file; null: none. */
  drawn: number | null;
  position: string;
  surroundings: Plan["site"]["surroundings"];
  when: string;
  wind: { speed_ms: number | null; gust_ms: number | null; direction_deg: number | null };
  air: Partial<Record<"temperature_c" | "dew_point_c" | "visibility_m" | "kp", number>>;
  precipitation: Plan["weather"]["precipitation"] | null;
  /** By which the server knows the things of the kit again, so that a second try makes nothing twice. */
  key: string;
  /** The same for the session; another one after each change, since a session begun before rests on what was said. */
  asked: string;
}

export const SHEET_KEYS = [
  "mass_g",
  "battery_wh",
  "hover_time_min",
  "max_wind_ms",
  "speeds_ms.normal",
  "speeds_ms.fast",
] as const;
export type SheetKey = (typeof SHEET_KEYS)[number];

const KEY = "lark.start";
const LEFT = "lark.start.left";

export function emptyDraft(when: string): Draft {
  return {
    like: null,
    name: "",
    sheet: {},
    packs: 1,
    cells: 2,
    charge_pct: null,
    place: "",
    drawn: null,
    position: "",
    surroundings: "open",
    when,
    wind: { speed_ms: null, gust_ms: null, direction_deg: null },
    air: {},
    precipitation: null,
    key: number(),
    asked: number(),
  };
}

/** The draft with something said. */
export const withSaid = (draft: Draft, part: Partial<Draft>): Draft => ({
  ...draft,
  ...part,
  asked: number(),
});

export const keptDraft = (when: string): Draft => ({ ...emptyDraft(when), ...kept<Draft>(KEY) });
export const keepDraft = (draft: Draft) => keep(KEY, draft);
export const dropDraft = () => drop(KEY);

/** Whether the pilot went round the path: it is then offered, and no longer opened by itself. */
export const wasLeft = () => kept<boolean>(LEFT) === true;
export const leave = () => keep(LEFT, true);

/** The class's aircraft with what the pilot's own sheet says. */
export function aircraftOf(draft: Draft, typical: Aircraft): Aircraft {
  const { "speeds_ms.normal": normal, "speeds_ms.fast": fast, ...plain } = draft.sheet;
  const speeds = { ...typical.speeds_ms };
  if (normal !== undefined) speeds.normal = normal;
  if (fast !== undefined) speeds.fast = fast;
  return { ...typical, ...plain, speeds_ms: speeds, name: draft.name.trim(), kit: null };
}

export function sheetValue(aircraft: Aircraft, key: SheetKey): number {
  if (key === "speeds_ms.normal") return aircraft.speeds_ms.normal;
  if (key === "speeds_ms.fast") return aircraft.speeds_ms.fast;
  return aircraft[key];
}

const LETTERS = Array.from({ length: 26 }, (_, n) => String.fromCharCode(65 + n));

/** Labels of so many batteries, of those that no other has: A, B, C; after Z come A2, B2. */
export function labels(count: number, taken: string[] = []): string[] {
  const found: string[] = [];
  for (let round = 1; found.length < count; round++) {
    const named = LETTERS.map((letter) => (round === 1 ? letter : `${letter}${round}`));
    found.push(...named.filter((label) => !taken.includes(label)));
  }
  return found.slice(0, count);
}

/** The plan with the weather and the charge that were said; each is then typed, the rest is asked for. */
export function planOf(draft: Draft, begun: Plan, now: Date): Plan {
  const at = now.toISOString();
  const typed: Plan["evidence"] = {};
  const say = (key: string) => (typed[key] = { how: "typed", source: null, at });
  const { speed_ms, gust_ms, direction_deg } = draft.wind;
  const weather = { ...begun.weather, ...draft.air };
  for (const figure of Object.keys(draft.air)) say(`weather.${figure}`);
  if (speed_ms !== null && direction_deg !== null) {
    weather.winds = [
      {
        height_m: 10,
        speed_ms,
        direction_deg,
        gust_ms,
        source: "forecast",
        at: null,
        method: null,
      },
    ];
    say("weather.winds.0");
  }
  if (draft.precipitation !== null) {
    weather.precipitation = draft.precipitation;
    say("weather.precipitation");
  }
  if (Object.keys(typed).length > 0) weather.as_of = at;
  const pack = { ...begun.pack };
  if (draft.charge_pct !== null) {
    pack.charge_pct = draft.charge_pct;
    say("pack.charge_pct");
  }
  const site = { ...begun.site, surroundings: draft.surroundings };
  return { ...begun, weather, pack, site, evidence: { ...begun.evidence, ...typed } };
}
