import type { Ended } from "./flight";
import type { Act, End, Kind } from "./tables";

export const ACT_WORDS: Record<Act, string> = {
  turn_back: "Turn back",
  by_hand: "Fly manually",
  fast: "Fast mode",
  lower: "Lower",
  climb: "Climb",
  return_home: "Return to home",
  wait: "Wait",
  land: "Land here",
  walk: "Walk into the open",
};

/** In a sentence. */
export const ACT_TOLD: Record<Act, string> = {
  turn_back: "turning back as planned",
  by_hand: "flying home manually",
  fast: "fast mode",
  lower: "coming down a little",
  climb: "climbing a little",
  return_home: "return to home",
  wait: "waiting",
  land: "landing there",
  walk: "walking into the open",
};

export const KINDS: Record<Kind, { name: string; told: string }> = {
  none: { name: "Nothing goes wrong", told: "Nothing went wrong on this flight." },
  headwind: {
    name: "Headwind on the flight home",
    told: "The wind turned against the flight home, and grew.",
  },
  drain: {
    name: "Battery draining fast",
    told: "Part of the charge fell away at once, and the rest drained faster than planned.",
  },
  picture: {
    name: "Video frozen",
    told: "The video froze. The aircraft and its control link were fine all along.",
  },
  link: {
    name: "Lost link",
    told: "Something came between you and the aircraft, close to where you stood.",
  },
  fog: {
    name: "Fog from below",
    told: "Fog rose from the ground. In it, ice forms on propellers.",
  },
  bird: { name: "A bird", told: "A bird attacked the aircraft near the far point." },
  pad: {
    name: "Landing place not clear",
    told: "Somebody stood on the landing place for a while.",
  },
  boat: {
    name: "Home point left behind",
    told: "Your boat drifted away from the home point: return to home goes to empty water.",
  },
};

export const ENDS: Record<End, { title: string; short: string; mark: "good" | "care" | "bad" }> = {
  home: { title: "Home", short: "home", mark: "good" },
  away: { title: "Down in the open, away from you", short: "down away", mark: "care" },
  hurt: { title: "It landed where somebody stood", short: "somebody hurt", mark: "bad" },
  water: { title: "Down in the water", short: "in the water", mark: "bad" },
  trees: { title: "Down in the trees", short: "in the trees", mark: "bad" },
  hit: { title: "It flew into an obstacle", short: "hit an obstacle", mark: "bad" },
  empty: {
    title: "The battery was empty before it was down",
    short: "empty in the air",
    mark: "bad",
  },
  iced: { title: "Ice brought it down", short: "iced up", mark: "bad" },
  struck: { title: "The bird struck it", short: "struck", mark: "bad" },
  gone: { title: "It never came down again where you could see it", short: "gone", mark: "bad" },
};

/** Flight time as on a clock. */
export const clock = (seconds: number) =>
  `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, "0")}`;

/** An end, in a sentence; far writes a distance. */
export function endWords(
  { end, charge_pct, from_home_m }: Ended,
  far: (m: number) => string,
): string {
  if (end === "home") return `home with ${Math.round(charge_pct)}%`;
  return end === "away" ? `down in the open, ${far(from_home_m)} from you` : ENDS[end].short;
}
