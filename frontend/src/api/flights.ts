import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { keepPlan, keptPlan } from "../flight/record";
import { allSaved } from "../editing/opened";
import type { Units } from "../units/units";
import { refusalWords } from "./refusals";
import { client, Problem, take, type Airborne, type FlightEntry, type FlightTrack } from "./client";

/** What the flight clock and the emergency cards need. Kept on the device: out of reach, that is given. */
export function useAirborne(sessionId: number, units: Units, enabled = true) {
  return useQuery({
    queryKey: ["airborne", sessionId, units],
    enabled,
    queryFn: async ({ signal }): Promise<Airborne> => {
      try {
        await allSaved();
        const found = await take(
          client.GET("/api/sessions/{session_id}/airborne", {
            params: { path: { session_id: sessionId }, query: units },
            signal,
          }),
        );
        keepPlan(found);
        return found;
      } catch (error) {
        const kept = keptPlan(sessionId);
        if (kept && error instanceof Problem && error.status === 0) return kept;
        throw error;
      }
    },
    retry: false,
    staleTime: 0,
  });
}

/** How often an observer's page asks [ms]. */
const OBSERVED_EVERY_MS = 2_000;

/** The flight in the air, for an observer on another device; what was heard last stays while the server is away. */
export function useObserved(sessionId: number) {
  return useQuery({
    queryKey: ["observed", sessionId],
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/sessions/{session_id}/observed", {
          params: { path: { session_id: sessionId } },
          signal,
        }),
      ),
    refetchInterval: OBSERVED_EVERY_MS,
    retry: false,
  });
}

/** What comes after a session's flights, as the server has it. */
export function useKeptAfter(sessionId: number) {
  return useQuery({
    queryKey: ["after", sessionId],
    queryFn: async ({ signal }) => {
      await allSaved();
      return take(
        client.GET("/api/sessions/{session_id}/after", {
          params: { path: { session_id: sessionId } },
          signal,
        }),
      );
    },
  });
}

export interface WarmUp {
  room_c: number;
  humidity_pct: number;
  gear_c: number;
}

export function useWarmUp(asked: WarmUp) {
  return useQuery({
    queryKey: ["warm-up", asked],
    queryFn: ({ signal }) => take(client.GET("/api/warm-up", { params: { query: asked }, signal })),
    placeholderData: keepPreviousData,
  });
}

export interface Wanted {
  text: string;
  aircraft: string;
  pack: string;
  place: string;
  since: string;
  until: string;
}

export const EVERYTHING: Wanted = {
  text: "",
  aircraft: "",
  pack: "",
  place: "",
  since: "",
  until: "",
};

/** The query of a filter; days become moments, the last day counted whole. */
export function queryOf(wanted: Wanted): Record<string, string> {
  const { since, until, ...names } = wanted;
  const found: Record<string, string> = Object.fromEntries(
    Object.entries(names).filter(([, value]) => value !== ""),
  );
  if (since) found.since = new Date(`${since}T00:00`).toISOString();
  if (until)
    found.until = new Date(new Date(`${until}T00:00`).getTime() + 86_400_000).toISOString();
  return found;
}

export function useLogbook(wanted: Wanted, page: number) {
  return useQuery({
    queryKey: ["flights", "page", wanted, page],
    queryFn: ({ signal }) =>
      take(client.GET("/api/flights", { params: { query: { ...queryOf(wanted), page } }, signal })),
    placeholderData: keepPreviousData,
  });
}

export function useLogbookSummary(wanted: Wanted) {
  return useQuery({
    queryKey: ["flights", "summary", wanted],
    queryFn: ({ signal }) =>
      take(client.GET("/api/logbook/summary", { params: { query: queryOf(wanted) }, signal })),
    placeholderData: keepPreviousData,
  });
}

export function useLoggedFlight(uid: string) {
  return useQuery({
    queryKey: ["flights", uid],
    queryFn: ({ signal }) =>
      take(client.GET("/api/flights/{uid}", { params: { path: { uid } }, signal })),
  });
}

function useLogbookChange<T>(change: (given: T) => Promise<unknown>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => queries.invalidateQueries({ queryKey: ["flights"] }),
  });
}

export const useAddFlight = () =>
  useLogbookChange((entry: FlightEntry) => take(client.POST("/api/flights", { body: { entry } })));

export const useSaveFlight = (uid: string) =>
  useLogbookChange((body: { entry: FlightEntry; revision: number }) =>
    take(client.PUT("/api/flights/{uid}", { params: { path: { uid } }, body })),
  );

export const useDeleteFlight = () =>
  useLogbookChange(({ uid, back }: { uid: string; back: boolean }) =>
    back
      ? take(client.POST("/api/flights/{uid}/restore", { params: { path: { uid } } }))
      : take(client.DELETE("/api/flights/{uid}", { params: { path: { uid } } })),
  );

export function useTrack(uid: string, has: boolean) {
  return useQuery({
    queryKey: ["flights", uid, "track"],
    enabled: has,
    queryFn: ({ signal }) =>
      take(client.GET("/api/flights/{uid}/track", { params: { path: { uid } }, signal })),
    staleTime: Infinity,
  });
}

export const useDeleteTrack = (uid: string) =>
  useLogbookChange(() =>
    take(client.DELETE("/api/flights/{uid}/track", { params: { path: { uid } } })),
  );

export const BYTES = { "Content-Type": "application/octet-stream" };

interface TrackLine {
  done: number;
  track: FlightTrack | null;
  message: string | null;
  refusals: { key: string; given: string; allowed: string }[];
}

/** What was wrong with a file, in one line. */
export class RefusedFile extends Error {}

/** Send a track, and be told how far it is; stopped by the signal, nothing is kept. */
export async function sendTrack(
  uid: string,
  file: File,
  columns: Record<string, string>,
  told: (done: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const query = new URLSearchParams({ ...columns, name: file.name, progress: "true" });
  const answer = await fetch(`/api/flights/${uid}/track?${query}`, {
    method: "POST",
    headers: BYTES,
    body: file,
    signal,
  });
  if (!answer.ok) {
    const said = (await answer.json()) as { message: string; refusals: TrackLine["refusals"] };
    throw new RefusedFile(inWords(said.message, said.refusals));
  }
  const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
  let text = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    text += value;
    const lines = text.split("\n");
    text = lines.pop()!;
    for (const line of lines) {
      const said = JSON.parse(line) as TrackLine;
      if (said.message) throw new RefusedFile(inWords(said.message, said.refusals));
      told(said.done);
    }
  }
}

function inWords(message: string, refusals: TrackLine["refusals"]): string {
  const first = refusals[0];
  return first ? `${message} ${refusalWords(first)}` : message;
}

export async function tableHead(file: File) {
  const answer = await fetch("/api/tracks/head", { method: "POST", headers: BYTES, body: file });
  const said = await answer.json();
  if (!answer.ok) throw new RefusedFile(inWords(said.message, said.refusals ?? []));
  return said as { columns: string[]; rows: string[][]; guess: Record<string, string> };
}

export function useOffers() {
  return useQuery({
    queryKey: ["learning"],
    queryFn: ({ signal }) => take(client.GET("/api/learning", { signal })),
  });
}

/** Take an offer, or undo what was taken. */
export function useLearn() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (given: { kind: string; target: number; source: string } | { undo: number }) =>
      "undo" in given
        ? take(
            client.DELETE("/api/learning/{learned_id}", {
              params: { path: { learned_id: given.undo } },
            }),
          )
        : take(client.POST("/api/learning", { body: given })),
    onSuccess: (data) => {
      queries.setQueryData(["learning"], data);
      for (const key of ["sessions", "kit", "airborne", "weather"])
        void queries.invalidateQueries({ queryKey: [key] });
    },
  });
}
