import type { FlightCard } from "../api/client";

/**
 * Does it still come home? The wind that was met in the air, out of what the pilot can read there, and the row of
 * the flight card that was worked out for it ahead: all of it without the server.
 */

type Row = FlightCard["winds"][number];

/** Ground speeds alike within this share tell that ground speed was held, and nothing of the wind. */
const HELD_SHARE = 0.1;

/** Headwind on the way home [m/s] from ground speeds at full stick; null where they tell nothing. */
export function againstBySpeeds(homeMs: number, awayMs: number): number | null {
  const held = (homeMs + awayMs) / 2;
  if (Math.abs(awayMs - homeMs) <= HELD_SHARE * held) return null;
  return (awayMs - homeMs) / 2;
}

/** Wind [m/s] that it leans into while it holds still, as the core's drag law has it. */
export function windByLean(card: FlightCard, leanDeg: number): number {
  return card.lean_ms * Math.sqrt(Math.tan((leanDeg * Math.PI) / 180));
}

/** The row for a headwind: the next stronger one, so that it never promises more than was worked out; null: beyond all. */
export function rowFor(card: FlightCard, againstMs: number): Row | null {
  return card.winds.find((row) => row.against_ms >= againstMs - 1e-9) ?? null;
}

/** The card with the way home of the wind that was met, by the better of the planned and the best way. */
export function cardInWind(card: FlightCard, againstMs: number | null): FlightCard {
  if (againstMs === null || !card.winds?.length) return card;
  const row = rowFor(card, againstMs);
  return { ...card, home: row?.home ?? row?.best ?? null };
}

/** How far out it still comes home from with the reserve, by the charge now [m]; null: it does not. */
export function reachNow(card: FlightCard, chargePct: number): number | null {
  if (!card.home) return null;
  return Math.max(0, (chargePct - card.reserve_pct - card.home.fixed_pct) / card.home.pct_per_m);
}
