import type { Path } from "../../editing/history";
import type { Plan } from "../../api/client";
import type { FieldWords } from "../../editing/ClashDialog";
import { bearing, written, type Quantity, type Units } from "../../units/units";
import {
  LANDFORMS,
  LOST_LINK,
  MODES,
  NOISE,
  PLATFORMS,
  PRECIPITATION,
  SURROUNDINGS,
} from "./names";

type Kind = Quantity | "bearing" | "list" | "words" | Record<string, string>;

/** What the fields of a plan are called and how their values are written, by their path without row numbers. */
const FIELDS: Record<string, [label: string, kind: Kind]> = {
  title: ["Title", "words"],
  takeoff_at: ["Take-off time", "words"],
  aircraft: ["Aircraft", "list"],
  pack: ["Battery", "list"],
  "pack.label": ["Battery", "words"],
  "pack.charge_pct": ["Charge", "percent"],
  "pack.health_pct": ["Battery health", "percent"],
  "pack.temperature_c": ["Battery temperature", "temperature"],
  "site.surroundings": ["Surroundings", SURROUNDINGS],
  "site.landform": ["Landform", "list"],
  "site.landform.kind": ["Landform", LANDFORMS],
  "site.elevation_m": ["Height above sea level", "length"],
  "site.obstacles": ["Obstacles", "list"],
  "site.obstacles.height_m": ["Obstacle, height", "length"],
  "site.obstacles.distance_m": ["Obstacle, distance", "length"],
  "site.obstacles.bearing_deg": ["Obstacle, bearing", "bearing"],
  "site.platform.kind": ["Start from", PLATFORMS],
  "site.radio_noise": ["Other radios", NOISE],
  "site.over_water": ["Over water", "words"],
  "site.indoors": ["Indoors", "words"],
  "site.sheltered": ["Sheltered place", "words"],
  "weather.winds": ["Winds", "list"],
  "weather.winds.speed_ms": ["Wind", "speed"],
  "weather.winds.gust_ms": ["Gust", "speed"],
  "weather.winds.direction_deg": ["Wind from", "bearing"],
  "weather.winds.height_m": ["Height of the wind", "length"],
  "weather.temperature_c": ["Air temperature", "temperature"],
  "weather.dew_point_c": ["Dew point", "temperature"],
  "weather.visibility_m": ["Visibility", "length"],
  "weather.precipitation": ["Rain or snow", PRECIPITATION],
  "weather.kp": ["Kp index", "count"],
  "weather.cloud_base_m": ["Cloud base", "length"],
  "flight.bearing_deg": ["Bearing", "bearing"],
  "flight.distance_m": ["Distance", "length"],
  "flight.height_m": ["Height", "length"],
  "flight.station_min": ["Filming", "minutes"],
  "flight.outbound_mode": ["Mode out", MODES],
  "flight.return_mode": ["Return", MODES],
  "flight.moves": ["Moves", "list"],
  "settings.rth_altitude_m": ["Return height", "length"],
  "settings.max_altitude_m": ["Height limit", "length"],
  "settings.max_distance_m": ["Distance limit", "length"],
  "settings.lost_link": ["Lost-link action", LOST_LINK],
  "settings.satellites": ["Satellites", "count"],
  "settings.home_point_set": ["Home point", "words"],
  "settings.compass_checked": ["Compass", "words"],
};

/** How a clash of two windows is asked about. */
export function fieldWords(path: Path, units: Units): FieldWords {
  const named = path.filter((step) => typeof step === "string");
  // What a deeper field has no words for has those of what it is part of.
  let found: [string, Kind] | undefined;
  for (let n = named.length; n > 0 && !found; n--) found = FIELDS[named.slice(0, n).join(".")];
  const [label, kind] = found ?? [named.at(-1)!.replaceAll("_", " "), "words"];
  const row = path.find((step) => typeof step === "number");
  return {
    label: row === undefined ? label : `${label} (row ${row + 1})`,
    value: (value) => valueWords(value, kind, units),
  };
}

function valueWords(value: unknown, kind: Kind, units: Units): string {
  if (value === undefined || value === null) return "not known";
  if (Array.isArray(value)) return `${value.length} in the list`;
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") {
    if (kind === "bearing") return bearing(value);
    return kind === "list" || kind === "words" || typeof kind === "object"
      ? String(value)
      : written(value, kind, units);
  }
  if (typeof value === "object") return (value as { name?: string }).name ?? "another one";
  if (typeof value !== "string") return "another one";
  return typeof kind === "object" ? (kind[value] ?? value) : value;
}

/** What a figure is called and how its value reads, by its key path; the winds as one line. */
export function shownAt(plan: Plan, key: string, units: Units): { label: string; value: string } {
  if (key === "weather.winds")
    return {
      label: "Wind",
      value: plan.weather.winds
        .map(
          (w) =>
            `${written(w.speed_ms, "speed", units)} from ${bearing(w.direction_deg)}` +
            (w.gust_ms == null ? "" : `, gusts ${written(w.gust_ms, "speed", units)}`) +
            ` at ${written(w.height_m, "length", units)}`,
        )
        .join("; "),
    };
  const path = key.split(".");
  const words = fieldWords(path, units);
  const value = path.reduce<unknown>((node, step) => (node as Record<string, unknown>)[step], plan);
  return { label: words.label, value: words.value(value) };
}
