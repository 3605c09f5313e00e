import { useSyncExternalStore } from "react";

/** What is shown holds for the plan as it is now; by the field tables; in part for the plan as it was. */
export type Fit = "as it is" | "by tables" | "as it was";
const FITS: Fit[] = ["as it is", "by tables", "as it was"];

/**
 * Whether the server could not be reached when it was last asked, and what is shown instead.
 * since: the oldest of the answers that stand in for it; fit: the worst of them.
 */
export interface Away {
  since: string;
  fit: Fit;
}

let away: Away | null = null;
const listeners = new Set<() => void>();

function set(next: Away | null) {
  if (next === away || (next && away && next.since === away.since && next.fit === away.fit)) return;
  away = next;
  for (const listener of listeners) listener();
}

/** An answer that was taken along stands in for the server. */
export function stoodIn(at: string, fit: Fit) {
  const before = away?.fit ?? "as it is";
  set({
    since: away && away.since < at ? away.since : at,
    fit: FITS.indexOf(fit) > FITS.indexOf(before) ? fit : before,
  });
}

/** The server answered. */
export const reached = () => set(null);

export const awayNow = () => away;

function watch(listener: () => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

export const useAway = (): Away | null => useSyncExternalStore(watch, () => away);

let returns = 0;

/** A question that broke off in the middle was answered when it was put again: the server was started again. */
export function cameBack() {
  returns += 1;
  for (const listener of listeners) listener();
}

/** How often that happened since this page was opened. */
export const useReturns = (): number => useSyncExternalStore(watch, () => returns);

/** What is along is worded in the units that it was taken along in; asked for in others, a page would be empty. */
export const UNITS_STAY =
  "Units stay as they are until the server is back: what is along is written in them.";
