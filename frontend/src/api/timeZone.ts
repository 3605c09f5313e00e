import { useQuery } from "@tanstack/react-query";
import { client, take } from "./client";

/** The time zone at a position; null while it is not known. */
export function useTimeZone(at: { latitude: number; longitude: number } | null): string | null {
  const query = useQuery({
    queryKey: ["time zone", at?.latitude.toFixed(2), at?.longitude.toFixed(2)],
    queryFn: async ({ signal }) =>
      (await take(client.GET("/api/time-zone", { params: { query: at! }, signal }))).name,
    enabled: at !== null,
    staleTime: Infinity,
    gcTime: Infinity,
  });
  return query.data ?? null;
}
