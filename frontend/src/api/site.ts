import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { onSiteWith } from "../saying/onSite";
import { useWords } from "../saying/useSaying";
import { withWords, type Word } from "../saying/words";
import type { Units } from "../units/units";
import { client, take, type OnSite, type Plan } from "./client";
import { useSettled } from "./settled";

/** A session on site, for the plan as it stands, with what was said to each item, here or on another device. */
export function useOnSite(sessionId: number, plan: Plan, units: Units) {
  const asked = useSettled(plan, 150);
  const query = useQuery({
    queryKey: ["on-site", sessionId, asked, units],
    queryFn: ({ signal }) =>
      take(
        client.POST("/api/sessions/{session_id}/on-site", {
          params: { path: { session_id: sessionId }, query: units },
          body: { plan: asked },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const words = useWords(sessionId, "look_round", "walkround");
  const { data } = query;
  return { ...query, data: useMemo(() => data && withWaiting(data, words), [data, words]) };
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

/** What aircraft and wind meter say, asked for every second while somebody looks. */
export function useDevices() {
  return useQuery({
    queryKey: ["devices"],
    queryFn: ({ signal }) => take(client.GET("/api/devices", { signal })),
    refetchInterval: 1000,
    // Out of reach, an old answer must not stand as what is said now.
    gcTime: 0,
    retry: false,
  });
}

export function useBehaviour() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (behaviour: string) =>
      take(client.PUT("/api/devices/aircraft", { body: { behaviour } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["devices"] }),
  });
}
