import type { Result } from "../api/client";
import { written, type Units } from "../units/units";

/** By which height and mode it comes home best, in a sentence; nothing while the wind is not known. */
export function bestWayHome(result: Result, units: Units): string | null {
  const ways = result.best_way_home;
  if (!ways) return null;
  if (!ways.fastest) return "It can’t get home at any clear height, in any mode.";
  const way = ways.best ?? ways.fastest;
  const slow = ways.best ? "" : ", and that is slow";
  return (
    `Best flight home: ${written(way.height_m, "length", units)}, ${MODE_WORDS[way.mode]}, ` +
    `${written(way.ground_speed_ms, "speed", units)} ground speed${slow}, ` +
    `landing with ${Math.round(way.landing_pct)}%.`
  );
}

const MODE_WORDS = {
  rth: "return to home",
  slow: "manually in slow mode",
  normal: "manually in normal mode",
  fast: "manually in fast mode",
} as const;
