import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Units } from "../units/units";
import { client, take, type ForecastHead, type Plan, type Report } from "./client";
import { sendBytes } from "./sendBytes";
import { useSettled } from "./settled";

export const weatherKey = ["weather"] as const;

export function useSources() {
  return useQuery({
    queryKey: [...weatherKey, "sources"],
    queryFn: async ({ signal }) =>
      (await take(client.GET("/api/weather/sources", { signal }))).sources,
    staleTime: Infinity,
  });
}

/** The latest report of each source for a place. */
export function useReports(latitude: number, longitude: number) {
  return useQuery({
    queryKey: [...weatherKey, "reports", latitude, longitude],
    queryFn: async ({ signal }) =>
      (
        await take(
          client.GET("/api/weather/reports", {
            params: { query: { latitude, longitude } },
            signal,
          }),
        )
      ).reports,
    placeholderData: keepPreviousData,
  });
}

/** The half hours of two days; asked for again once the plan has stood still for a moment. */
export function useLook(plan: Plan, report: number | null, units: Units, looking: boolean) {
  const asked = useSettled(plan, 600);
  return useQuery({
    queryKey: [...weatherKey, "look", asked, report, units],
    queryFn: ({ signal }) =>
      take(
        client.POST("/api/windows", {
          params: { query: units },
          body: { plan: asked, report },
          signal,
        }),
      ),
    enabled: looking,
    placeholderData: keepPreviousData,
    gcTime: 30_000,
    retry: false,
  });
}

export function useWeatherActions() {
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries({ queryKey: weatherKey });
  return {
    fetch: useMutation({
      mutationFn: (body: { source: string; plan: Plan }) =>
        take(client.POST("/api/weather/fetch", { body })),
      onSuccess: refresh,
    }),
    read: useMutation({
      mutationFn: (body: {
        kind: "metar" | "taf" | "csv";
        text: string;
        name: string;
        plan: Plan;
      }) => take(client.POST("/api/weather/read", { body })),
      onSuccess: refresh,
    }),
    fill: useMutation({
      mutationFn: (body: { report: number; takeoff_at: string; plan: Plan }) =>
        take(client.POST("/api/weather/fill", { body })),
    }),
  };
}

/** A forecast out of a file: what its columns are, and keeping it for a place. */
export function useForecastFile() {
  const queries = useQueryClient();
  return {
    head: useMutation({
      mutationFn: (file: File) => sendBytes<ForecastHead>("/api/weather/file/head", file),
    }),
    keep: useMutation({
      mutationFn: (given: {
        file: File;
        site: { latitude: number; longitude: number };
        chosen: { columns: Record<string, string>; height_m: number | null } | null;
      }) => {
        const query = new URLSearchParams({
          latitude: String(given.site.latitude),
          longitude: String(given.site.longitude),
          name: given.file.name.slice(0, 100),
        });
        if (given.chosen) {
          query.set("columns", JSON.stringify(given.chosen.columns));
          if (given.chosen.height_m !== null) query.set("height_m", String(given.chosen.height_m));
        }
        return sendBytes<Report>(`/api/weather/file?${query}`, given.file);
      },
      onSuccess: () => queries.invalidateQueries({ queryKey: weatherKey }),
    }),
  };
}
