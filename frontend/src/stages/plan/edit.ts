import type { Plan } from "../../api/client";
import { reducer, setAt, type Action, type History, type Path } from "../../editing/history";
import { withEvidence } from "./evidence";

/**
 * One edit by the pilot. Three things follow from it: weather that was touched is current, a gust is never less
 * than its mean wind, and what was changed is typed.
 */
export function edited(plan: Plan, path: Path, value: unknown, now: Date): Plan {
  return withEvidence(plan, changed(plan, path, value, now), now);
}

function changed(plan: Plan, path: Path, value: unknown, now: Date): Plan {
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

const reduced = reducer(edited);

/** The history of a plan. What a whole plan brings that is put in its place is as known as what is typed. */
export function reduce(history: History<Plan>, action: Action<Plan>): History<Plan> {
  if (action.kind !== "replace") return reduced(history, action);
  const document = withEvidence(history.document, action.document, new Date());
  return reduced(history, { kind: "replace", document });
}
