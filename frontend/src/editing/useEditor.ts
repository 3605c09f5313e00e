import { useCallback, useEffect, useReducer, useRef, useState } from "react";
import { begin, type Action, type History, type Path } from "./history";
import { draftOf, forgetDraft, Saver, type Draft, type Put, type SaveState } from "./saver";

export interface Editor<T> {
  document: T;
  change: (path: Path, value: unknown) => void;
  /** Put another document in its place, as one step. */
  replace: (document: T) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  saving: SaveState;
  /** Save what waits; the revision then saved. */
  flush: () => Promise<number>;
  /** Changes of another day that could not be saved then, and were overtaken since. */
  stranded: Draft<T> | null;
  useStranded: () => void;
  dropStranded: () => void;
}

export interface Editable<T> {
  /** What drafts are kept under. */
  name: string;
  document: T;
  revision: number;
  put: Put<T>;
  reduce: (history: History<T>, action: Action<T>) => History<T>;
}

/** An open document: changed at once, undone at will, saved behind. */
export function useEditor<T>(opened: Editable<T>): Editor<T> {
  const [draft] = useState(() => draftOf<T>(opened.name, localStorage));
  const fits = draft !== null && draft.revision === opened.revision;
  const [history, act] = useReducer(
    opened.reduce,
    fits ? draft.document : opened.document,
    begin<T>,
  );
  const [stranded, setStranded] = useState(fits ? null : draft);
  const [saving, setSaving] = useState<SaveState>({ kind: "saved" });
  const [saver] = useState(
    () => new Saver<T>(opened.name, opened.revision, opened.put, localStorage, setSaving),
  );

  const saved = useRef<T>(opened.document);
  useEffect(() => {
    if (history.document === saved.current) return;
    saved.current = history.document;
    saver.offer(history.document);
  }, [history.document, saver]);

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
    forgetDraft(opened.name, localStorage);
    setStranded(null);
  }, [opened.name]);

  return {
    document: history.document,
    change: useCallback(
      (path, value) => {
        const drag = held.current ? drags.current : null;
        act({ kind: "change", path, value, at: Date.now(), drag });
      },
      [held, drags],
    ),
    replace: useCallback((document) => act({ kind: "replace", document }), []),
    undo: useCallback(() => act({ kind: "undo" }), []),
    redo: useCallback(() => act({ kind: "redo" }), []),
    canUndo: history.past.length > 0,
    canRedo: history.future.length > 0,
    saving,
    flush: useCallback(() => saver.flush(), [saver]),
    stranded,
    useStranded: useCallback(() => {
      if (stranded) act({ kind: "replace", document: stranded.document });
      setStranded(null);
    }, [stranded]),
    dropStranded,
  };
}
