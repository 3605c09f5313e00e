import { useQuery } from "@tanstack/react-query";
import { hereAt, offsetHere, offsetIn, wallIn, type WallTime } from "../shell/time";
import { client, take } from "./client";

/** The time zone at a position; null while it is not known. */
export function useTimeZone(at: { latitude: number; longitude: number } | null): string | null {
  const query = useQuery({
    queryKey: ["time zone", at?.latitude.toFixed(2), at?.longitude.toFixed(2)],
    queryFn: async ({ signal }) => {
      const { latitude, longitude } = at!;
      const query = { latitude, longitude };
      return (await take(client.GET("/api/time-zone", { params: { query }, signal }))).name;
    },
    enabled: at !== null,
    staleTime: Infinity,
    gcTime: Infinity,
  });
  return query.data ?? null;
}

/** The clock on the wall at a position; this machine's while the position or its zone is not known. */
export function useWall(at: { latitude: number; longitude: number } | null) {
  const zone = useTimeZone(at);
  return {
    zone,
    offset: (local: string): string => (zone ? offsetIn(zone, local) : offsetHere(local)),
    time: (iso: string): WallTime => (zone ? wallIn(zone, iso) : hereAt(new Date(iso))),
  };
}
