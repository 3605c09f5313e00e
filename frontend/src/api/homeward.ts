import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { flightHere, keepHoming, keptHoming } from "../practice/ahead";
import { flownWaiting, sendFlown } from "../homeward/kept";
import type { HomeFlight } from "../homeward/tables";
import { useTrying } from "../shell/useTrying";
import type { Units } from "../units/units";
import { client, isRefused, take } from "./client";
import type { components } from "./schema";

export type HomeNow = components["schemas"]["HomeNow"];

const homeKey = ["practice", "home"] as const;

async function askHoming(signal: AbortSignal): Promise<HomeNow> {
  try {
    const now = await take(client.GET("/api/practice/home", { signal }));
    void keepHoming(now);
    return now;
  } catch (error) {
    const here = isRefused(error) ? null : await keptHoming(flownWaiting().map((f) => f.seed));
    if (here === null) throw error;
    return here;
  }
}

/** How flights to bring home go, and which is next. */
export const useHoming = () =>
  useQuery({ queryKey: homeKey, queryFn: ({ signal }) => askHoming(signal) });

// A pair is a list of any length to the client's types.
export const askFlight = (seed: number, units: Units, signal?: AbortSignal) =>
  take(
    client.GET("/api/practice/home/{seed}", { params: { path: { seed }, query: units }, signal }),
  ) as Promise<HomeFlight>;

/** A flight to bring home; out of reach, the one that is here. */
export function useHomeFlight(seed: number, units: Units) {
  return useQuery({
    queryKey: [...homeKey, seed, units],
    queryFn: ({ signal }) =>
      askFlight(seed, units, signal).catch(async (error: unknown) => {
        const here = isRefused(error) ? null : await flightHere(seed);
        if (here === null) throw error;
        return here;
      }),
    // A flight is the same as long as gear and minimums are.
    staleTime: 60_000,
  });
}

/** Sends up the flights that wait on this device; how many still do. */
export function useSendingFlown(): { waiting: number; go: () => void } {
  const queries = useQueryClient();
  const [waiting, setWaiting] = useState(() => flownWaiting().length);
  const go = useCallback(() => {
    setWaiting(flownWaiting().length);
    if (flownWaiting().length === 0) return;
    void sendFlown(({ uid, seed, acts }, ago_s) =>
      take(
        client.POST("/api/practice/home/{seed}", {
          params: { path: { seed } },
          body: { uid, acts: [...acts], ago_s },
        }),
      ),
    ).then((sent) => {
      setWaiting(flownWaiting().length);
      if (sent > 0) void queries.invalidateQueries({ queryKey: homeKey, exact: true });
    });
  }, [queries]);
  useTrying(go);
  return { waiting, go };
}

const AHEAD = 20;

/** The next flights, to be flown without the server; those that there are none of are left out. */
export async function flightsAhead(units: Units) {
  const { seed } = await take(client.GET("/api/practice/home"));
  const found: HomeFlight[] = [];
  for (let n = seed; found.length < AHEAD && n < seed + 2 * AHEAD; n += 1) {
    try {
      found.push(await askFlight(n, units));
    } catch (error) {
      if (!isRefused(error)) throw error;
    }
  }
  return found;
}
