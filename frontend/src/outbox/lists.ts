import { useMemo } from "react";
import type { Afterwards, OnSite, Plan } from "../api/client";
import { useKeptAfter } from "../api/flights";
import { useKeptTicks } from "../api/kit";
import { useKeptOnSite } from "../api/site";
import type { Units } from "../units/units";
import { useKeptDrills } from "../api/drills";
import { drillsWith, onSiteWith, times } from "./onSite";
import { useWords } from "./useSaying";
import { withWords, type Word } from "./words";

/** What is ticked on a session's kit list, with the ticks that still wait for the server. */
export function useTicks(sessionId: number) {
  const query = useKeptTicks(sessionId);
  const words = useWords(sessionId, "kit");
  return { ...query, data: query.data && withWords(query.data, words) };
}

/** A session on site, for the plan as it stands, with what was said to each item, here or on another device. */
export function useOnSite(sessionId: number, plan: Plan, units: Units) {
  const query = useKeptOnSite(sessionId, plan, units);
  const words = useWords(sessionId, "look_round", "walkround");
  const { data } = query;
  return { ...query, data: useMemo(() => data && withWaiting(data, words), [data, words]) };
}

/** A session's drills, for the plan as it stands, with what was said of them, here or on another device. */
export function useDrills(sessionId: number, plan: Plan, units: Units) {
  const query = useKeptDrills(sessionId, plan, units);
  const words = useWords(sessionId, "drills");
  const { data } = query;
  return {
    ...query,
    data: useMemo(() => {
      if (!data || words.length === 0) return data;
      const said = withWords({}, words);
      const items = new Set(words.map((w) => w.said.item));
      return drillsWith(data, (drill, now) => (items.has(drill) ? (said[drill] ?? null) : now));
    }, [data, words]),
  };
}

function withWaiting(site: OnSite, words: readonly Word[]): OnSite {
  let found = site;
  for (const list of ["look_round", "walkround"] as const) {
    const waiting = words.filter((w) => w.list === list);
    const said = withWords({}, waiting);
    const items = new Set(waiting.map((w) => w.said.item));
    if (items.size > 0)
      found = onSiteWith(found, list, (key, now) => (items.has(key) ? (said[key] ?? null) : now));
  }
  return found;
}

/** What comes after a session's flights, with the chores that were ticked here. */
export function useAfter(sessionId: number) {
  const query = useKeptAfter(sessionId);
  const words = useWords(sessionId, "after");
  return { ...query, data: query.data && { ...query.data, said: ticked(query.data.said, words) } };
}

function ticked(said: Afterwards["said"], words: readonly Word[]): Afterwards["said"] {
  const here = new Set(words.map((w) => w.said.item));
  const others = Object.entries(said).filter(([item]) => !here.has(item));
  return { ...Object.fromEntries(others), ...times(withWords({}, words)) };
}
