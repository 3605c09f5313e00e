import type { Energy } from "../api/client";

/** A place on the way (metres flown along the track, there and back) and the charge there. */
export interface WayPoint {
  along: number;
  charge: number;
}

const MOVES: Record<string, 0 | 1> = {
  hover_check: 0,
  climb: 0,
  outbound: 1,
  station: 0,
  return_climb: 0,
  return: 1,
  descent: 0,
  landing: 0,
};

/** The charge along the way, from lift-off to landing; it ends where a leg makes no headway. */
export function chargeAlong(energy: Energy, distance: number, start: number): WayPoint[] {
  const points: WayPoint[] = [{ along: 0, charge: start }];
  let along = 0;
  for (const leg of energy.legs) {
    along += (MOVES[leg.name] ?? 0) * distance;
    points.push({ along, charge: leg.charge_after_pct });
  }
  return points;
}

/** The charge on arrival at the far point and when leaving it; null when it is never reached. */
export function atTheTurn(energy: Energy): { arrive: number; leave: number } | null {
  const arrive = energy.legs.find((leg) => leg.name === "outbound");
  const leave = energy.legs.findLast((leg) => ["station", "return_climb"].includes(leg.name));
  return arrive && leave
    ? { arrive: arrive.charge_after_pct, leave: leave.charge_after_pct }
    : null;
}

/** A place on the way and the band of the charge there. */
export interface BandPoint {
  along: number;
  low: number;
  high: number;
}

interface LegBand {
  name: string;
  low_pct: number;
  high_pct: number;
}

/** The band of the charge along the way, on the same places as `chargeAlong`. */
export function bandAlong(
  energy: Energy,
  bands: LegBand[],
  distance: number,
  start: number,
): BandPoint[] {
  const ways = chargeAlong(energy, distance, start).slice(1);
  return ways.map(({ along }, i) => ({ along, low: bands[i]!.low_pct, high: bands[i]!.high_pct }));
}
