import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Units } from "../units/units";
import { client, take, type Plan } from "./client";
import { useSettled } from "./settled";

/** A session on site, for the plan as it stands, with what was said to each item as the server has it. */
export function useKeptOnSite(sessionId: number, plan: Plan, units: Units) {
  const asked = useSettled(plan, 150);
  return useQuery({
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
