import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import {
  client,
  take,
  type Kept,
  type KitItem,
  type Plan,
  type UpkeepEntry,
  type Use,
} from "./client";
import type { Units } from "../units/units";
import { useSettled } from "./settled";

const kitKey = ["kit"] as const;
const outingKey = ["outing"] as const;
export const ticksKey = (sessionId: number) => ["ticks", sessionId] as const;
const item = (id: number) => ({ params: { path: { item_id: id } } });

export function useKit() {
  return useQuery({
    queryKey: [...kitKey, "items"],
    queryFn: async ({ signal }) => (await take(client.GET("/api/kit", { signal }))).items,
  });
}

export function useSheet() {
  return useQuery({
    queryKey: [...kitKey, "sheet"],
    queryFn: ({ signal }) => take(client.GET("/api/kit/sheet", { signal })),
    staleTime: Infinity,
  });
}

export function useKitActions() {
  const queries = useQueryClient();
  const refresh = () => {
    void queries.invalidateQueries({ queryKey: outingKey });
    return queries.invalidateQueries({ queryKey: kitKey });
  };
  return {
    add: useMutation({
      mutationFn: (made: KitItem) => take(client.POST("/api/kit", { body: { item: made } })),
      onSuccess: refresh,
    }),
    save: useMutation({
      mutationFn: ({ kept, changed }: { kept: Kept; changed: KitItem }) =>
        take(
          client.PUT("/api/kit/{item_id}", {
            ...item(kept.id),
            body: { revision: kept.revision, item: changed },
          }),
        ),
      onSuccess: refresh,
    }),
    remove: useMutation({
      mutationFn: (id: number) => take(client.DELETE("/api/kit/{item_id}", item(id))),
      onSuccess: refresh,
    }),
    restore: useMutation({
      mutationFn: (id: number) => take(client.POST("/api/kit/{item_id}/restore", item(id))),
      onSuccess: refresh,
    }),
  };
}

/** The sessions that fly with an item. */
export const usesOfItem = async (id: number): Promise<Use[]> =>
  (await take(client.GET("/api/kit/{item_id}/uses", item(id)))).sessions;

export function useUpkeep(id: number) {
  return useQuery({
    queryKey: [...kitKey, "upkeep", id],
    queryFn: ({ signal }) => take(client.GET("/api/kit/{item_id}/upkeep", { ...item(id), signal })),
  });
}

export function useUpkeepActions(id: number) {
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries({ queryKey: kitKey });
  const entry = (entryId: number) => ({
    params: { path: { item_id: id, entry_id: entryId } },
  });
  return {
    add: useMutation({
      mutationFn: (made: UpkeepEntry) =>
        take(client.POST("/api/kit/{item_id}/upkeep", { ...item(id), body: { entry: made } })),
      onSuccess: refresh,
    }),
    withdraw: useMutation({
      mutationFn: (entryId: number) =>
        take(client.DELETE("/api/kit/{item_id}/upkeep/{entry_id}", entry(entryId))),
      onSuccess: refresh,
    }),
    restore: useMutation({
      mutationFn: (entryId: number) =>
        take(client.POST("/api/kit/{item_id}/upkeep/{entry_id}/restore", entry(entryId))),
      onSuccess: refresh,
    }),
  };
}

/** What happens before leaving, for a plan as it stands. */
export function useReady(plan: Plan, units: Units) {
  const asked = useSettled(plan, 250);
  return useQuery({
    queryKey: [...outingKey, asked, units],
    queryFn: ({ signal }) =>
      take(client.POST("/api/outing", { params: { query: units }, body: { plan: asked }, signal })),
    placeholderData: keepPreviousData,
    gcTime: 30_000,
    retry: false,
  });
}

/** What is ticked on a session's kit list, as the server has it. */
export function useKeptTicks(sessionId: number) {
  return useQuery({
    queryKey: ticksKey(sessionId),
    queryFn: async ({ signal }) =>
      (
        await take(
          client.GET("/api/sessions/{session_id}/answers/{name}", {
            params: { path: { session_id: sessionId, name: "kit" } },
            signal,
          }),
        )
      ).answers,
  });
}
