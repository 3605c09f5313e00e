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

export interface History<T> {
  document: T;
  past: T[];
  future: T[];
  /** What was touched last, when, and in which drag: a drag is one step back, not a hundred. */
  touched: { path: string; at: number; drag: number | null } | null;
}

export type Action<T> =
  | { kind: "change"; path: Path; value: unknown; at: number; drag: number | null }
  | { kind: "undo" }
  | { kind: "redo" }
  | { kind: "replace"; document: T };

const ONE_GESTURE_MS = 1000;
const STEPS_KEPT = 100;

export function begin<T>(document: T): History<T> {
  return { document, past: [], future: [], touched: null };
}

/** What an edit brings with it, beside the one value that was changed. */
export type Edit<T> = (document: T, path: Path, value: unknown, now: Date) => T;

/** The history of a document whose edits follow rules of their own. */
export function reducer<T>(edited: Edit<T>) {
  return (history: History<T>, action: Action<T>): History<T> => {
    const { document, past, future, touched } = history;
    switch (action.kind) {
      case "change": {
        const path = action.path.join(".");
        const next = edited(document, action.path, action.value, new Date(action.at));
        const held = action.drag !== null && touched?.drag === action.drag;
        const same = touched?.path === path && (held || action.at - touched.at < ONE_GESTURE_MS);
        return {
          document: next,
          past: same ? past : [...past, document].slice(-STEPS_KEPT),
          future: [],
          touched: { path, at: action.at, drag: action.drag },
        };
      }
      case "undo": {
        const before = past.at(-1);
        if (!before) return history;
        const rest = past.slice(0, -1);
        return { document: before, past: rest, future: [document, ...future], touched: null };
      }
      case "redo": {
        const [after, ...rest] = future;
        if (!after) return history;
        return { document: after, past: [...past, document], future: rest, touched: null };
      }
      case "replace": {
        const kept = [...past, document].slice(-STEPS_KEPT);
        return { document: action.document, past: kept, future: [], touched: null };
      }
    }
  };
}
