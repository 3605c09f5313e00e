import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { Units } from "../units/units";
import { client, take, type Plan } from "./client";
import { useSettled } from "./settled";

export const drillsNowKey = ["drills-now"] as const;

/** How the drills stand, over all sessions. */
export function useDrillsNow() {
  return useQuery({
    queryKey: drillsNowKey,
    queryFn: ({ signal }) => take(client.GET("/api/drills", { signal })),
  });
}

/** A session's drills, for the plan as it stands, with what was said of them as the server has it. */
export function useKeptDrills(sessionId: number, plan: Plan, units: Units) {
  const asked = useSettled(plan, 150);
  return useQuery({
    queryKey: ["drills", sessionId, asked, units],
    queryFn: ({ signal }) =>
      take(
        client.POST("/api/sessions/{session_id}/drills", {
          params: { path: { session_id: sessionId }, query: units },
          body: { plan: asked },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  });
}
