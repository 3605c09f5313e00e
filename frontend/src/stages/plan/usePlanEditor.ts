import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { client, take, type Plan, type Session } from "../../api/client";
import { begin, reduce, type Path } from "./edit";
import { draftOf, forgetDraft, PlanSaver, type Draft, type SaveState } from "./saver";

export interface PlanEditor {
  plan: Plan;
  change: (path: Path, value: unknown) => void;
  /** Put another plan in its place, as one step. */
  replace: (plan: Plan) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  saving: SaveState;
  /** Save what waits; the revision then saved. */
  flush: () => Promise<number>;
  /** Changes of another day that could not be saved then, and were overtaken since. */
  stranded: Draft | null;
  useStranded: () => void;
  dropStranded: () => void;
}

function put(sessionId: number) {
  return (plan: Plan, revision: number) =>
    take(
      client.PUT("/api/sessions/{session_id}", {
        params: { path: { session_id: sessionId } },
        body: { plan, revision },
        keepalive: true, // the last change still goes out when the window closes
      }),
    );
}

/** The plan of an open session: changed at once, judged as it is, saved behind. */
export function usePlanEditor(session: Session): PlanEditor {
  const [draft] = useState(() => draftOf(session.id, localStorage));
  const fits = draft !== null && draft.revision === session.revision;
  const [history, act] = useReducer(reduce, fits ? draft.plan : session.plan, begin);
  const [stranded, setStranded] = useState(fits ? null : draft);
  const [saving, setSaving] = useState<SaveState>({ kind: "saved" });
  const [saver] = useState(
    () => new PlanSaver(session.id, session.revision, put(session.id), localStorage, setSaving),
  );

  const saved = useRef<Plan>(session.plan);
  useEffect(() => {
    if (history.plan === saved.current) return;
    saved.current = history.plan;
    saver.offer(history.plan);
  }, [history.plan, saver]);

  useEffect(() => {
    const leave = () => void saver.flush().catch(() => undefined);
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, [saver]);

  // However slowly a slider is dragged, from finger down to finger up is one change.
  const held = useRef(false);
  const drags = useRef(0);
  useEffect(() => {
    const down = () => {
      held.current = true;
      drags.current += 1;
    };
    // The slider's own last word comes just after the finger is up, and belongs to the drag.
    const up = () => setTimeout(() => (held.current = false), 0);
    const options = { capture: true };
    window.addEventListener("pointerdown", down, options);
    window.addEventListener("pointerup", up, options);
    window.addEventListener("pointercancel", up, options);
    return () => {
      window.removeEventListener("pointerdown", down, options);
      window.removeEventListener("pointerup", up, options);
      window.removeEventListener("pointercancel", up, options);
    };
  }, []);

  const dropStranded = useCallback(() => {
    forgetDraft(session.id, localStorage);
    setStranded(null);
  }, [session.id]);

  return {
    plan: history.plan,
    change: useCallback(
      (path, value) => {
        const drag = held.current ? drags.current : null;
        act({ kind: "change", path, value, at: Date.now(), drag });
      },
      [held, drags],
    ),
    replace: useCallback((plan) => act({ kind: "replace", plan }), []),
    undo: useCallback(() => act({ kind: "undo" }), []),
    redo: useCallback(() => act({ kind: "redo" }), []),
    canUndo: history.past.length > 0,
    canRedo: history.future.length > 0,
    saving,
    flush: useCallback(() => saver.flush(), [saver]),
    stranded,
    useStranded: useCallback(() => {
      if (stranded) act({ kind: "replace", plan: stranded.plan });
      setStranded(null);
    }, [stranded]),
    dropStranded,
  };
}
