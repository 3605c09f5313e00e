import {
  keepPreviousData,
  useIsMutating,
  useMutation,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import type { Units } from "../units/units";
import { client, take, type OwnSource, type Plan, type SourceDraft } from "./client";
import { sessionsKey } from "./queries";
import { useSettled } from "./settled";
import { weatherKey } from "./weather";

const ownKey = ["own sources"] as const;
const newsKey = ["news"] as const;
const askKey = ["ask all"] as const;
const NEWS_MS = 5 * 60_000;

/** What each forecast says about the take-off; asked again once the plan has stood still for a moment. */
export function useCompared(plan: Plan, units: Units) {
  const asked = useSettled(plan, 600);
  return useQuery({
    queryKey: [...weatherKey, "compared", asked, units],
    queryFn: ({ signal }) =>
      take(
        client.POST("/api/weather/compare", {
          params: { query: units },
          body: { plan: asked },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 30_000,
    retry: false,
  });
}

/** Ask every source at once. */
export function useAskAll() {
  const queries = useQueryClient();
  return useMutation({
    mutationKey: askKey,
    mutationFn: async (plan: Plan) =>
      (await take(client.POST("/api/weather/fetch-all", { body: { plan } }))).asked,
    onSuccess: () => queries.invalidateQueries({ queryKey: weatherKey }),
  });
}

/** Whether the sources are being asked, by whatever part of the page. */
export function useAsking(): boolean {
  return useIsMutating({ mutationKey: askKey }) > 0;
}

export function useOwnSources() {
  return useQuery({
    queryKey: ownKey,
    queryFn: async ({ signal }) => (await take(client.GET("/api/sources", { signal }))).sources,
  });
}

export function useSourceActions() {
  const queries = useQueryClient();
  const refresh = () =>
    Promise.all([
      queries.invalidateQueries({ queryKey: ownKey }),
      queries.invalidateQueries({ queryKey: weatherKey }),
    ]);
  const at = (id: number) => ({ params: { path: { source_id: id } } });
  return {
    attempt: useMutation({
      mutationFn: async ({ draft, of }: { draft: SourceDraft; of: number | null }) => {
        const { url, header, key, own_network } = draft;
        const access = { url, header, key, own_network };
        const body = { access, of };
        return (await take(client.POST("/api/sources/try", { body }))).collections;
      },
    }),
    save: useMutation({
      mutationFn: ({ draft, id }: { draft: SourceDraft; id: number | null }) =>
        take(
          id === null
            ? client.POST("/api/sources", { body: { source: draft } })
            : client.PUT("/api/sources/{source_id}", { ...at(id), body: { source: draft } }),
        ),
      onSuccess: refresh,
    }),
    order: useMutation({
      mutationFn: (order: number[]) => take(client.PUT("/api/sources/order", { body: { order } })),
      onSuccess: refresh,
    }),
    remove: useMutation({
      mutationFn: ({ id }: OwnSource) => take(client.DELETE("/api/sources/{source_id}", at(id))),
      onSuccess: refresh,
    }),
  };
}

/** What was found of a session as its forecasts were renewed, the latest first. */
export function useWatch(sessionId: number) {
  return useQuery({
    queryKey: [...newsKey, "of", sessionId],
    queryFn: async ({ signal }) =>
      (
        await take(
          client.GET("/api/sessions/{session_id}/watch", {
            params: { path: { session_id: sessionId } },
            signal,
          }),
        )
      ).watched,
    refetchInterval: NEWS_MS,
  });
}

/** Changes that nobody has seen yet. */
export function useNews() {
  return useQuery({
    queryKey: [...newsKey, "unseen"],
    queryFn: async ({ signal }) => (await take(client.GET("/api/watch", { signal }))).news,
    refetchInterval: NEWS_MS,
    retry: false,
  });
}

export function useWatchActions() {
  const queries = useQueryClient();
  const refresh = () =>
    Promise.all([
      queries.invalidateQueries({ queryKey: newsKey }),
      queries.invalidateQueries({ queryKey: weatherKey }),
      queries.invalidateQueries({ queryKey: [...sessionsKey, "list"] }),
    ]);
  return {
    look: useMutation({
      mutationFn: () => take(client.POST("/api/watch")),
      onSuccess: refresh,
    }),
    see: useMutation({
      mutationFn: (id: number) =>
        take(
          client.POST("/api/sessions/{session_id}/watch/seen", {
            params: { path: { session_id: id } },
          }),
        ),
      onSuccess: refresh,
    }),
  };
}

/** What forecasts said before a flight, beside the wind that it met. */
export function useHeldOfFlight(uid: string) {
  return useQuery({
    queryKey: ["held", uid],
    queryFn: ({ signal }) =>
      take(client.GET("/api/flights/{uid}/forecasts", { params: { path: { uid } }, signal })),
    retry: false,
  });
}

/** How far each forecast is off at each place. */
export function useHeldOverLogbook() {
  return useQuery({
    queryKey: ["held"],
    queryFn: async ({ signal }) =>
      (await take(client.GET("/api/logbook/forecasts", { signal }))).held,
    retry: false,
  });
}
