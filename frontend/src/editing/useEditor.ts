import { useEffect, useMemo, useRef, useSyncExternalStore } from "react";
import type { Change } from "./change";
import type { Path } from "./history";
import type { Clash } from "./merge";
import { openDocument } from "./opened";
import type { Kept, SaveState, Source } from "./openDocument";

export interface Editor<T> {
  document: T;
  revision: number;
  change: Change<T>;
  /** As `change`, at a path that the server names. */
  changeNamed: (path: Path, value: unknown) => void;
  /** Put another document in its place, as one step. */
  replace: (document: T) => void;
  undo: () => void;
  redo: () => void;
  canUndo: boolean;
  canRedo: boolean;
  saving: SaveState;
  /** Save what waits; the revision then saved. */
  flush: () => Promise<number>;
  /** Ask the server for what was saved elsewhere. */
  refresh: () => Promise<void>;
  /** Fields that were changed here and elsewhere, to be asked. */
  clashes: Clash[];
  answer: (clash: Clash, whose: "here" | "elsewhere") => void;
}

const ASK_AGAIN_MS = 10_000;

const silent = () => () => undefined;
const nothing = () => null;

/**
 * An open document, as every page of this window shows it: changed at once, undone at will, saved behind.
 * null while neither the server nor this window has it (`kept`).
 */
export function useEditor<T>(source: Source<T>, kept: Kept<T> | undefined): Editor<T> | null {
  const opened = kept ? openDocument(source, kept) : undefined;
  useEffect(() => {
    if (opened && kept) opened.seen(kept);
  });
  const state = useSyncExternalStore(opened?.subscribe ?? silent, opened?.snapshot ?? nothing);
  useNews(opened?.refresh);

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

  return useMemo(() => {
    if (!opened || !state) return null;
    const { act, flush, refresh, answer } = opened;
    const { history, ...rest } = state;
    const change = (path: Path, value: unknown) => {
      const drag = held.current ? drags.current : null;
      act({ kind: "change", path, value, at: Date.now(), drag });
    };
    return {
      ...rest,
      document: history.document,
      change,
      changeNamed: change,
      replace: (document) => act({ kind: "replace", document }),
      undo: () => act({ kind: "undo" }),
      redo: () => act({ kind: "redo" }),
      canUndo: history.past.length > 0,
      canRedo: history.future.length > 0,
      flush,
      refresh,
      answer,
    };
  }, [opened, state]);
}

/** Another device may change it at any time: asked again while somebody looks, and on coming back. */
function useNews(refresh: (() => Promise<void>) | undefined) {
  useEffect(() => {
    if (!refresh) return;
    const ask = () => {
      if (document.visibilityState === "visible") void refresh();
    };
    const timer = setInterval(ask, ASK_AGAIN_MS);
    window.addEventListener("focus", ask);
    document.addEventListener("visibilitychange", ask);
    return () => {
      clearInterval(timer);
      window.removeEventListener("focus", ask);
      document.removeEventListener("visibilitychange", ask);
    };
  }, [refresh]);
}
