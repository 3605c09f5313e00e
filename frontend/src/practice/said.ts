import type { AnswerIn } from "../api/practice";
import { outbox } from "./outbox";

/** An answer to a case that is not known to be with the server. */
export interface SaidCase {
  family: string;
  seed: number;
  said: AnswerIn;
  at: string;
}

const box = outbox<SaidCase>("lark.practice.said.", (item) => item.said.uid);

export const keepSaid = (family: string, seed: number, said: AnswerIn) =>
  box.keep({ family, seed, said, at: new Date().toISOString() });
export const letGoOfSaid = box.letGo;
export const saidWaiting = box.waiting;

/** How an answer goes up; given in tests. */
export type Put = (family: string, seed: number, said: AnswerIn) => Promise<unknown>;

/** Send what waits, first said first; how many went up. */
export const sendSaid = (by: Put): Promise<number> =>
  box.send(({ family, seed, said }, ago_s) => by(family, seed, { ...said, ago_s }));
