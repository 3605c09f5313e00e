import type { Plan } from "../../api/client";
import { reducer, setAt, type Path } from "../../editing/history";

/**
 * One edit by the pilot. Two things follow from it: weather that was touched is as of now,
 * and a gust is never less than its mean wind.
 */
export function edited(plan: Plan, path: Path, value: unknown, now: Date): Plan {
  let next = setAt(plan, path, value);
  if (path[0] !== "weather") return next;
  const winds = next.weather.winds.map((level) =>
    level.gust_ms != null && level.gust_ms < level.speed_ms
      ? { ...level, gust_ms: level.speed_ms }
      : level,
  );
  // What was touched is the pilot's own from now on, whatever it came from.
  // A draft that an older Lark left behind may say nothing of it.
  const known = (next.weather.provenance as Plan["weather"]["provenance"] | undefined) ?? [];
  const provenance = known.filter((p) => p.figure !== path[1]);
  next = { ...next, weather: { ...next.weather, winds, provenance, as_of: now.toISOString() } };
  return next;
}

export const reduce = reducer(edited);
