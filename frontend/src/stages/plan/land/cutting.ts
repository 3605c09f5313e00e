import type { Plan, Survey } from "../../../api/client";
import { polar } from "../../../map/local";

/** The planned moves that a cut along a bearing goes through, within 15° of it. */
export function movesIn(towards: number, plan: Plan, survey: Survey | undefined): Survey["moves"] {
  const here = { lat: plan.site.latitude, lon: plan.site.longitude };
  return (survey?.moves ?? []).filter((_, i) => {
    const move = plan.flight.moves[i];
    if (!move) return false;
    const { bearing: b, distance } = polar(here, { lat: move.latitude, lon: move.longitude });
    return distance < move.size_m || Math.abs(((b - towards + 540) % 360) - 180) <= 15;
  });
}

/** How far a side view goes [m]: past the far point and every move in it. */
export function sectionUpto(plan: Plan, moves: Survey["moves"]): number {
  const farthest = Math.max(plan.flight.distance_m * 1.25, ...moves.map((m) => m.to_m * 1.1));
  return Math.min(5000, Math.max(120, Math.ceil(farthest)));
}
