import { drop, keep, kept, number } from "../shell/device";
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

const UNDER_WAY = "lark.practice.flying";

/** A flight that is in the air: what was done, and how far it is. It can be flown on after a reload. */
export interface UnderWay {
  seed: number;
  acts: Acts;
  at_s: number;
}

export const keepUnderWay = (flight: UnderWay) => keep(UNDER_WAY, flight);
export const dropUnderWay = () => drop(UNDER_WAY);

/** The flight of a number that was left in the air; null where there is none. */
export function underWay(seed: number): UnderWay | null {
  const flight = kept<UnderWay>(UNDER_WAY);
  return flight?.seed === seed ? flight : null;
}
