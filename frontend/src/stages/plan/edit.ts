import type { Plan } from "../../api/client";

export type Path = (string | number)[];

/** A copy of a document with one place changed; everything beside the path is shared. */
export function setAt<T>(node: T, path: Path, value: unknown): T {
  if (path.length === 0) return value as T;
  const [step, ...rest] = path as [string | number, ...Path];
  if (Array.isArray(node)) {
    return node.map((item, i) => (i === step ? setAt(item, rest, value) : item)) as T;
  }
  const from = (node ?? {}) as Record<string, unknown>;
  return { ...from, [step]: setAt(from[step as string], rest, value) } as T;
}

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
  next = { ...next, weather: { ...next.weather, winds, as_of: now.toISOString() } };
  return next;
}

export interface History {
  plan: Plan;
  past: Plan[];
  future: Plan[];
  /** What was touched last, when, and in which drag: a drag is one step back, not a hundred. */
  touched: { path: string; at: number; drag: number | null } | null;
}

export type Action =
  | { kind: "change"; path: Path; value: unknown; at: number; drag: number | null }
  | { kind: "undo" }
  | { kind: "redo" }
  | { kind: "replace"; plan: Plan };

const ONE_GESTURE_MS = 1000;
const STEPS_KEPT = 100;

export function begin(plan: Plan): History {
  return { plan, past: [], future: [], touched: null };
}

export function reduce(history: History, action: Action): History {
  const { plan, past, future, touched } = history;
  switch (action.kind) {
    case "change": {
      const path = action.path.join(".");
      const next = edited(plan, action.path, action.value, new Date(action.at));
      const held = action.drag !== null && touched?.drag === action.drag;
      const same = touched?.path === path && (held || action.at - touched.at < ONE_GESTURE_MS);
      return {
        plan: next,
        past: same ? past : [...past, plan].slice(-STEPS_KEPT),
        future: [],
        touched: { path, at: action.at, drag: action.drag },
      };
    }
    case "undo": {
      const before = past.at(-1);
      if (!before) return history;
      return { plan: before, past: past.slice(0, -1), future: [plan, ...future], touched: null };
    }
    case "redo": {
      const [after, ...rest] = future;
      if (!after) return history;
      return { plan: after, past: [...past, plan], future: rest, touched: null };
    }
    case "replace":
      return { plan: action.plan, past: [...past, plan], future: [], touched: null };
  }
}
