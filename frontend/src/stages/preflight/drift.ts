/** How far a boat is from where the home point was set: its speed times the time since then. */
export function driftM(deckMs: number, setAt: number, now: number): number {
  return (deckMs * Math.max(0, now - setAt)) / 1000;
}
