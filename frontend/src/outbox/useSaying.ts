import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useSyncExternalStore } from "react";
import {
  Problem,
  type Afterwards,
  type Answer,
  type DrillsHere,
  type OnSite,
  type Said,
} from "../api/client";
import { ticksKey } from "../api/kit";
import { useTrying } from "../shell/useTrying";
import { drillsNowKey } from "../api/drills";
import { drillsWith, onSiteWith, times } from "./onSite";
import { sendWords, type Outcome } from "./sending";
import { keepWord, watchWords, wordsWaiting, type ListName, type Word } from "./words";

/** Where the answers to a list are shown beside the list itself. */
const SHOWN: Record<ListName, (session: number) => readonly unknown[]> = {
  kit: ticksKey,
  look_round: (session) => ["on-site", session],
  walkround: (session) => ["on-site", session],
  drills: (session) => ["drills", session],
  after: (session) => ["after", session],
};

/** How the last sending went. */
let last: Outcome = { outOfReach: false, refused: null };
const listeners = new Set<() => void>();

function watchLast(listener: () => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** What is shown follows the server's answers, so that nothing blinks when the word is let go of. */
function settleIn(queries: QueryClient) {
  return async ({ session, list }: Word, answers: Record<string, Answer> | null) => {
    const queryKey = SHOWN[list](session);
    // An answer that was asked for before this word must not come in after it.
    await queries.cancelQueries({ queryKey });
    if (answers) {
      if (list === "kit") queries.setQueryData(queryKey, answers);
      else if (list === "after")
        queries.setQueryData<Afterwards>(
          queryKey,
          (now) => now && { ...now, said: times(answers) },
        );
      else if (list === "drills")
        queries.setQueriesData<DrillsHere>(
          { queryKey },
          (now) => now && drillsWith(now, (drill) => answers[drill] ?? null),
        );
      else
        queries.setQueriesData<OnSite>(
          { queryKey },
          (now) => now && onSiteWith(now, list, (key) => answers[key] ?? null),
        );
    }
    void queries.invalidateQueries({ queryKey });
    if (list === "drills") void queries.invalidateQueries({ queryKey: drillsNowKey });
  };
}

function useSend(): () => Promise<Outcome> {
  const queries = useQueryClient();
  return useCallback(async () => {
    if (wordsWaiting().length === 0) return last;
    const outcome = await sendWords(settleIn(queries));
    // What was refused is told until something else goes up.
    if (outcome.outOfReach !== last.outOfReach || outcome.refused !== last.refused) {
      last = outcome;
      for (const listener of listeners) listener();
    }
    return outcome;
  }, [queries]);
}

/** Sends up what was said on this device, wherever in Lark the pilot is. */
export function useSendingWords() {
  const send = useSend();
  useTrying(useCallback(() => void send(), [send]));
}

/** The words to a session's lists that wait for the server. */
export function useWords(session: number, ...lists: ListName[]): readonly Word[] {
  const all = useSyncExternalStore(watchWords, wordsWaiting);
  const wanted = lists.join();
  return useMemo(
    () => all.filter((w) => w.session === session && wanted.split(",").includes(w.list)),
    [all, session, wanted],
  );
}

/** Answer items of a list: it shows at once, is kept on the device, and goes up as soon as it can. */
export function useSaying(session: number, list: ListName): (said: Said) => void {
  const send = useSend();
  return useCallback(
    (said) => {
      keepWord(session, list, said);
      void send();
    },
    [send, session, list],
  );
}

/** How the last sending went. */
export const useLastSending = (): Outcome => useSyncExternalStore(watchLast, () => last);

/** Make sure that the server has all that was said in a session. Throws the Problem that keeps it from that. */
export function useFlushWords(session: number): () => Promise<void> {
  const send = useSend();
  return useCallback(async () => {
    await send();
    if (wordsWaiting().some((w) => w.session === session))
      throw new Problem(0, "Can’t reach Lark’s server. Your answer is saved on this device.");
  }, [send, session]);
}
