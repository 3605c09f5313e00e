import type { AnswerIn } from "../api/practice";
import { isRefused } from "../api/client";
import { drop, keep, keptFrom } from "../shell/device";

/** An answer to a case that is not known to be with the server. */
export interface SaidCase {
  family: string;
  seed: number;
  said: AnswerIn;
  at: string;
}

const SAID = "lark.practice.said.";
const MONTH_S = 30 * 86_400;

export const keepSaid = (family: string, seed: number, said: AnswerIn) =>
  keep(SAID + said.uid, { family, seed, said, at: new Date().toISOString() } satisfies SaidCase);
export const letGoOfSaid = (uid: string) => drop(SAID + uid);

/** First said first: that is how the scheduler hears them. */
export const saidWaiting = () => keptFrom<SaidCase>(SAID).sort((a, b) => a.at.localeCompare(b.at));

/** How an answer goes up; given in tests. */
export type Put = (family: string, seed: number, said: AnswerIn) => Promise<unknown>;

let running: Promise<number> | null = null;

/** Send what waits, first said first; how many went up. What the server will never take is let go of. */
export function sendSaid(by: Put): Promise<number> {
  running ??= sendAll(by).finally(() => {
    running = null;
  });
  return running;
}

async function sendAll(by: Put): Promise<number> {
  let sent = 0;
  for (const { family, seed, said, at } of saidWaiting()) {
    const ago_s = Math.min(Math.max((Date.now() - Date.parse(at)) / 1000, 0), MONTH_S);
    try {
      await by(family, seed, { ...said, ago_s });
      sent += 1;
    } catch (error) {
      if (!isRefused(error)) return sent;
    }
    letGoOfSaid(said.uid);
  }
  return sent;
}
