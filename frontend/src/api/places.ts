import type { components } from "./schema";
import { sendBytes } from "./sendBytes";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import {
  client,
  take,
  type MeasuredHeight,
  type OpenedPlace,
  type Place,
  type Plan,
  type Use,
} from "./client";
import { sessionsKey } from "./queries";
import type { Units } from "../units/units";

const placesKey = ["places"] as const;
const path = (id: number) => ({ params: { path: { place_id: id } } });

export function usePlaces() {
  return useQuery({
    queryKey: [...placesKey, "list"],
    queryFn: async ({ signal }) => (await take(client.GET("/api/places", { signal }))).places,
  });
}

/** One place; a number of null asks for nothing. */
export function usePlace(id: number | null | undefined, alsoDeleted = false) {
  return useQuery({
    queryKey: [...placesKey, id, alsoDeleted],
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/places/{place_id}", {
          params: { path: { place_id: id! }, query: { also_deleted: alsoDeleted } },
          signal,
        }),
      ),
    enabled: id != null,
    // The editor owns the place once it is open; it is asked for again each time.
    staleTime: Infinity,
    gcTime: 0,
  });
}

export type MapData = components["schemas"]["MapDataOut"];
export type ImportKind = "terrain" | "surface" | "picture" | "zones" | "features";

/** A file goes up as its bytes, so that the server names what is wrong with it. */
export async function sendFile(
  id: number,
  kind: ImportKind,
  file: File,
  revision: number,
  crs: string | null,
): Promise<OpenedPlace> {
  const query = new URLSearchParams({ name: file.name, revision: String(revision) });
  if (crs) query.set("crs", crs);
  return sendBytes(`/api/places/${id}/${kind}?${query}`, file);
}

/** A point of a scan [pixels] and where it is. */
interface ScanPin {
  column: number;
  row: number;
  latitude: number;
  longitude: number;
}

/** A scan goes up with two of its points. */
export function sendScan(
  id: number,
  file: File,
  revision: number,
  pins: readonly [ScanPin, ScanPin],
): Promise<OpenedPlace> {
  const query = new URLSearchParams({ name: file.name, revision: String(revision) });
  pins.forEach((pin, n) =>
    Object.entries(pin).forEach(([part, value]) =>
      query.set(`${n === 0 ? "first" : "second"}_${part}`, String(value)),
    ),
  );
  return sendBytes(`/api/places/${id}/scan?${query}`, file);
}

/** What a map has around a place; nothing of it is kept. */
export function lookAtMap(id: number, file: File): Promise<MapData> {
  return sendBytes(`/api/places/${id}/map-data`, file);
}

/** What the surface model of a place says of what is drawn there; nothing is changed. */
export async function heightsMeasured(id: number): Promise<MeasuredHeight[]> {
  const path = { path: { place_id: id } };
  return (await take(client.GET("/api/places/{place_id}/measured", { params: path }))).measured;
}

export function usePlaceActions() {
  const queries = useQueryClient();
  const refresh = useCallback(() => {
    void queries.invalidateQueries({ queryKey: placesKey });
    // Sessions are judged again by what stands at their place.
    void queries.invalidateQueries({ queryKey: sessionsKey });
  }, [queries]);
  return {
    refresh,
    add: useMutation({
      mutationFn: (body: Place) => take(client.POST("/api/places", { body })),
      onSuccess: refresh,
    }),
    remove: useMutation({
      mutationFn: (id: number) => take(client.DELETE("/api/places/{place_id}", path(id))),
      onSuccess: refresh,
    }),
    restore: useMutation({
      mutationFn: (id: number) => take(client.POST("/api/places/{place_id}/restore", path(id))),
      onSuccess: refresh,
    }),
  };
}

export function useSurvey(plan: Plan) {
  return useQuery({
    queryKey: ["survey", plan],
    queryFn: ({ signal }) => take(client.POST("/api/survey", { body: plan, signal })),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    retry: false,
  });
}

export function useSection(plan: Plan, bearing: number, upto: number) {
  return useQuery({
    queryKey: ["section", plan, bearing, upto],
    queryFn: ({ signal }) =>
      take(
        client.POST("/api/section", {
          params: { query: { bearing_deg: bearing, upto_m: upto } },
          body: plan,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    retry: false,
  });
}

export function useSuggestions() {
  return useMutation({
    mutationFn: async ({ plan, units }: { plan: Plan; units: Units }) =>
      (await take(client.POST("/api/takeoffs", { params: { query: units }, body: plan })))
        .suggestions,
  });
}

/** The sessions that are at a place. */
export const usesOfPlace = async (id: number): Promise<Use[]> =>
  (await take(client.GET("/api/places/{place_id}/uses", { params: { path: { place_id: id } } })))
    .sessions;
