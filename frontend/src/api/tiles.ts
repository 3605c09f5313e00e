import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { components } from "./schema";
import { client, take } from "./client";
import { sendBytes } from "./sendBytes";

export type MapArchive = components["schemas"]["MapArchiveOut"];
/** What lies under the drawings: an archive kept here, or an address elsewhere. */
type Tiles = { archive: string | null; address: string | null };

const underKey = ["tiles"] as const;
const mapsKey = ["maps"] as const;

export const NOTHING_UNDER: Tiles = { archive: null, address: null };

export function useTiles() {
  return useQuery({
    queryKey: underKey,
    queryFn: async ({ signal }): Promise<Tiles> => {
      const said = await take(client.GET("/api/settings/tiles", { signal }));
      return { archive: said.archive ?? null, address: said.address ?? null };
    },
    staleTime: Infinity,
  });
}

export function useMaps(wanted = true) {
  return useQuery({
    queryKey: mapsKey,
    queryFn: async ({ signal }) => (await take(client.GET("/api/maps", { signal }))).maps,
    enabled: wanted,
  });
}

export function useChangeTiles() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: Tiles) => take(client.PUT("/api/settings/tiles", { body })),
    onSuccess: (_, kept) => queries.setQueryData(underKey, kept),
  });
}

export function useMapActions() {
  const queries = useQueryClient();
  const refresh = () => void queries.invalidateQueries({ queryKey: mapsKey });
  return {
    add: useMutation({
      mutationFn: (file: File) =>
        sendBytes<MapArchive>(`/api/maps?${new URLSearchParams({ name: file.name })}`, file),
      onSuccess: refresh,
    }),
    remove: useMutation({
      mutationFn: (digest: string) =>
        take(client.DELETE("/api/maps/{digest}", { params: { path: { digest } } })),
      onSuccess: () => {
        refresh();
        void queries.invalidateQueries({ queryKey: underKey });
      },
    }),
  };
}
