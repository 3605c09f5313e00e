import { client, isRefused, take, type Answer, type Problem } from "../api/client";
import { keyOf, letGo, wordsWaiting, type Word } from "./words";

/** How a word goes up; the answers to its list, as the server then has them. Given in tests. */
export type Put = (word: Word, ago_s: number) => Promise<Record<string, Answer>>;

/** What to do with the server's answers before the word is let go of. */
export type Settle = (word: Word, answers: Record<string, Answer> | null) => Promise<unknown>;

export interface Outcome {
  /** The server cannot be asked now; what waits, waits. */
  outOfReach: boolean;
  /** What the server did not take, and why. */
  refused: { session: number; problem: Problem } | null;
}

const MONTH_S = 30 * 86_400;

const put: Put = async ({ session, list, said }, ago_s) =>
  (
    await take(
      client.PUT("/api/sessions/{session_id}/answers/{name}", {
        params: { path: { session_id: session, name: list } },
        body: { value: null, note: "", ...said, ago_s },
        keepalive: true,
      }),
    )
  ).answers;

let running: Promise<Outcome> | null = null;

const AT_ONCE_S = 5;

/** Words that could not be sent when they were said. */
const failed = new Set<string>();

/** When the server answered the last word to an item, by this device's clock. */
const answered = new Map<string, number>();

/** Send what waits, first said first, one at a time; words said meanwhile are sent with them. */
export function sendWords(settle: Settle, by: Put = put): Promise<Outcome> {
  running ??= sendAll(settle, by).finally(() => {
    running = null;
  });
  return running;
}

async function sendAll(settle: Settle, by: Put): Promise<Outcome> {
  let refused: Outcome["refused"] = null;
  for (;;) {
    const word = wordsWaiting()[0];
    if (!word) return { outOfReach: false, refused };
    // Only how long ago counts: this device's clock need not agree with the server's. A word that waited for the
    // answer to an earlier one to the same item is the later one, however long that answer took.
    const since = Math.max(Date.parse(word.at), answered.get(keyOf(word)) ?? 0);
    const age_s = Math.min(Math.max((Date.now() - since) / 1000, 0), MONTH_S);
    // What goes up at once was said now: a busy device's clock jumps by more than that takes.
    const ago_s = age_s < AT_ONCE_S && !failed.has(word.uid) ? 0 : age_s;
    let answers: Record<string, Answer> | null = null;
    try {
      answers = await by(word, ago_s);
      answered.set(keyOf(word), Date.now());
    } catch (error) {
      if (!isRefused(error)) {
        failed.add(word.uid);
        return { outOfReach: true, refused };
      }
      refused = { session: word.session, problem: error };
    }
    await settle(word, answers);
    letGo(word);
  }
}
