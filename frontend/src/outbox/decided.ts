import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useSyncExternalStore } from "react";
import { client, isRefused, take, type PilotsWord, type Plan, type Result } from "../api/client";
import { drop, keep, keptFrom, number } from "../shell/device";
import { useTrying } from "../shell/useTrying";
import { wordsWaiting } from "./words";

/** A decision that was made without the server, with all that it rests on, until the server has it. */
export interface Decided {
  uid: string;
  session: number;
  word: PilotsWord;
  note: string;
  said: Record<string, "in_order" | "not_known">;
  /** What was not checked, in words, by the keys of `said`. */
  asked: Record<string, string>;
  plan: Plan;
  result: Result;
  /** When, by this device's clock. */
  at: string;
  /** Why the server did not take it. */
  refused?: string;
}

const DECIDED = "lark.decided.";
const MONTH_S = 30 * 86_400;

let known: readonly Decided[] | null = null;
const listeners = new Set<() => void>();

function tell(next: readonly Decided[] | null) {
  known = next;
  for (const listener of listeners) listener();
}

/** Decisions that wait for the server, the first made first. */
export function decidedWaiting(): readonly Decided[] {
  return (known ??= keptFrom<Decided>(DECIDED).sort((a, b) => a.at.localeCompare(b.at)));
}

export function keepDecided(made: Omit<Decided, "uid" | "at">) {
  const decided: Decided = { ...made, uid: number(), at: new Date().toISOString() };
  keep(DECIDED + decided.uid, decided);
  tell([...decidedWaiting(), decided]);
}

export function letGoOf({ uid }: Decided) {
  drop(DECIDED + uid);
  tell(decidedWaiting().filter((other) => other.uid !== uid));
}

function watch(listener: () => void): () => void {
  const elsewhere = (e: StorageEvent) => {
    if (e.key === null || e.key.startsWith(DECIDED)) tell(null);
  };
  listeners.add(listener);
  window.addEventListener("storage", elsewhere);
  return () => {
    listeners.delete(listener);
    window.removeEventListener("storage", elsewhere);
  };
}

/** Those of a session, the latest first. */
export function useDecided(session: number): readonly Decided[] {
  const all = useSyncExternalStore(watch, decidedWaiting);
  return useMemo(() => all.filter((d) => d.session === session).toReversed(), [all, session]);
}

/** How a decision goes up; given in tests. */
export type Put = (decided: Decided, ago_s: number) => Promise<unknown>;

const put: Put = (decided, ago_s) => {
  const { uid, session, word, note, said, asked, plan } = decided;
  const { tables_of, ...result } = decided.result;
  return take(
    client.POST("/api/sessions/{session_id}/decisions", {
      params: { path: { session_id: session } },
      // The server's number of the plan does not count: it stands on the one that it brings.
      body: {
        word,
        note,
        said,
        revision: 1,
        away: { ago_s, plan, result, asked, tables_of: tables_of ?? null },
      },
      headers: { "Idempotency-Key": uid },
    }),
  );
};

let running: Promise<boolean> | null = null;

/** Send what waits, in its order and after the answers that it rests on. Whether any went up. */
export function sendDecided(by: Put = put): Promise<boolean> {
  running ??= sendAll(by).finally(() => {
    running = null;
  });
  return running;
}

async function sendAll(by: Put): Promise<boolean> {
  let sent = false;
  for (const decided of decidedWaiting()) {
    if (decided.refused) continue;
    if (wordsWaiting().some(({ session }) => session === decided.session)) return sent;
    const ago_s = Math.min(Math.max((Date.now() - Date.parse(decided.at)) / 1000, 0), MONTH_S);
    try {
      await by(decided, ago_s);
    } catch (error) {
      if (!isRefused(error)) return sent;
      // It is the pilot's record: it stays here until the pilot has seen why.
      const refused = { ...decided, refused: error.message };
      keep(DECIDED + decided.uid, refused);
      tell(decidedWaiting().map((other) => (other.uid === decided.uid ? refused : other)));
      continue;
    }
    letGoOf(decided);
    sent = true;
  }
  return sent;
}

/** Sends up the decisions that were made without the server, wherever in Lark the pilot is. */
export function useSendingDecided() {
  const queries = useQueryClient();
  const go = useCallback(() => {
    if (decidedWaiting().length === 0) return;
    void sendDecided().then((sent) => {
      if (!sent) return;
      void queries.invalidateQueries({ queryKey: ["decisions"] });
      void queries.invalidateQueries({ queryKey: ["sessions"] });
    });
  }, [queries]);
  useTrying(go);
}
