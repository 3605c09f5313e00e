import { number } from "../shell/device";
import { outbox } from "../practice/outbox";
import type { Acts } from "./flight";

/** A flight that was flown and is not known to be with the server. */
export interface FlownHere {
  uid: string;
  seed: number;
  acts: Acts;
  at: string;
}

const box = outbox<FlownHere>("lark.practice.home.", (item) => item.uid);

export const keepFlown = (seed: number, acts: Acts) =>
  box.keep({ uid: number(), seed, acts, at: new Date().toISOString() });
export const flownWaiting = box.waiting;
export const sendFlown = box.send;
