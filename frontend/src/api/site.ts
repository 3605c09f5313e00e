import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Units } from "../units/units";
import { client, take, type Said, type OnSite, type Plan } from "./client";
import { useSettled } from "./settled";

export type ListName = "walkround" | "look_round";

/** A session on site, for the plan as it stands, with what was said to each item. */
export function useOnSite(sessionId: number, plan: Plan, units: Units) {
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

/** Answer an item. It shows at once; where it could not be kept, what is kept is shown again. */
export function useAnswer(sessionId: number, list: ListName) {
  const queries = useQueryClient();
  const key = ["on-site", sessionId];
  return useMutation({
    mutationFn: (body: Said) =>
      take(
        client.PUT("/api/sessions/{session_id}/answers/{name}", {
          params: { path: { session_id: sessionId, name: list } },
          body,
          keepalive: true,
        }),
      ),
    onMutate: async ({ item, word, value, note }) => {
      await queries.cancelQueries({ queryKey: key });
      const answer =
        word === null
          ? null
          : { word, value: value ?? null, note: note ?? "", said_at: new Date().toISOString() };
      const put = <T extends { key: string }>(x: T) => (x.key === item ? { ...x, answer } : x);
      queries.setQueriesData<OnSite>({ queryKey: key }, (now) => {
        if (!now) return now;
        if (list === "look_round") return { ...now, looks: now.looks.map(put) };
        const gates = now.gates.map((gate) => {
          const items = gate.items.map(put);
          const open = items.filter((i) => i.answer === null).length;
          return { ...gate, items, open, stopped: items.some((i) => i.answer?.word === "fault") };
        });
        return { ...now, gates };
      });
    },
    onSettled: () => queries.invalidateQueries({ queryKey: key }),
  });
}
