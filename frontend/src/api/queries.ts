import {
  keepPreviousData,
  useInfiniteQuery,
  useMutation,
  useQueries,
  useQuery,
  useQueryClient,
} from "@tanstack/react-query";
import { useState } from "react";
import { allSaved } from "../editing/opened";
import type { Units } from "../units/units";
import {
  client,
  Problem,
  take,
  type NewSession,
  type Plan,
  type PilotsWord,
  type PilotSettings,
  type Session,
} from "./client";
import { useOnce } from "./once";

export const sessionsKey = ["sessions"] as const;

/** Sessions that have the words, page by page: what is still to come first. */
export function useSessions(units: Units, find = "") {
  return useInfiniteQuery({
    queryKey: [...sessionsKey, "list", units, find],
    queryFn: async ({ signal, pageParam }) => {
      await allSaved();
      const query = { ...units, find, page: pageParam };
      return take(client.GET("/api/sessions", { params: { query }, signal }));
    },
    initialPageParam: 1,
    getNextPageParam: ({ page, pages }) => (page < pages ? page + 1 : undefined),
    select: ({ pages }) => ({
      sessions: pages.flatMap((page) => page.sessions),
      total: pages[0]?.total ?? 0,
    }),
    placeholderData: keepPreviousData,
  });
}

const askSession = (id: number, units: Units, signal?: AbortSignal) =>
  take(
    client.GET("/api/sessions/{session_id}", {
      params: { path: { session_id: id }, query: units },
      signal,
    }),
  );

/** What was asked for so long before it is wanted is old [ms]. */
const OLD_MS = 10_000;

let ahead: { id: number; units: string; at: number; session: Promise<Session> } | null = null;

/** Ask for the session that the window opens with before its screens are there; whoever asks first gets it. */
export function askAhead(id: number, units: Units) {
  const session = askSession(id, units);
  session.catch(() => undefined); // said where it is shown
  ahead = { id, units: JSON.stringify(units), at: Date.now(), session };
}

function askedAhead(id: number, units: Units) {
  const asked = ahead;
  ahead = null;
  if (!asked || Date.now() - asked.at > OLD_MS) return null;
  return asked.id === id && asked.units === JSON.stringify(units) ? asked.session : null;
}

export function useSession(id: number, units: Units) {
  const queries = useQueryClient();
  return useQuery({
    queryKey: [...sessionsKey, id],
    queryFn: async ({ signal }) => {
      const session = await (askedAhead(id, units) ?? askSession(id, units, signal));
      // A session comes judged: its stage has the verdict at once, and asks for it again all the same.
      queries.setQueryData(checkKey(session.plan, units), session.result);
      return session;
    },
    gcTime: 0,
  });
}

const AGAIN_MS = 5_000;

const checkKey = (plan: Plan, units: Units) => ["check", plan, units] as const;

/** The judgement of a plan: one question under way at a time, and the last one always answered. */
export function useJudging(plan: Plan, units: Units) {
  const [asked, setAsked] = useState({ plan, units });
  const query = useQuery({
    queryKey: checkKey(asked.plan, asked.units),
    queryFn: ({ signal }) =>
      take(
        client.POST("/api/check", {
          // Fixes take longer than all the rest, and are asked for when a rail is opened.
          params: { query: { ...asked.units, levers: false } },
          body: asked.plan,
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 10_000,
    retry: false,
    // A server that was out of reach is asked again by itself: the verdict is back when it is.
    refetchInterval: ({ state: { error } }) =>
      error instanceof Problem && error.status === 0 ? AGAIN_MS : false,
  });
  const free = query.fetchStatus === "idle";
  if (free && (asked.plan !== plan || asked.units !== units)) setAsked({ plan, units });
  return {
    result: query.error ? undefined : query.data,
    waiting: query.isPending,
    problem: query.error instanceof Problem ? query.error : null,
    retry: () => void query.refetch(),
  };
}

/** What would clear a check of a plan; asked for only while somebody looks at it. */
export function useFixes(plan: Plan | null, checkId: string, units: Units, looking: boolean) {
  return useQuery({
    queryKey: ["levers", plan, units],
    queryFn: ({ signal }) =>
      take(
        client.POST("/api/check", {
          params: { query: { ...units, levers: true } },
          body: plan!,
          signal,
        }),
      ),
    enabled: looking && plan !== null,
    select: (result) => result.checks.find((c) => c.id === checkId)?.levers ?? [],
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  });
}

/** Several plans judged side by side. */
export function useVariants(plans: Plan[], units: Units) {
  return useQueries({
    queries: plans.map((plan) => ({
      queryKey: checkKey(plan, units),
      queryFn: ({ signal }: { signal: AbortSignal }) =>
        take(
          client.POST("/api/check", {
            params: { query: { ...units, levers: false } },
            body: plan,
            signal,
          }),
        ),
    })),
  });
}

const minimumsKey = ["minimums"] as const;

export function useMinimums(session: number | undefined) {
  return useQuery({
    queryKey: [...minimumsKey, session ?? null],
    queryFn: ({ signal }) =>
      take(client.GET("/api/minimums", { params: { query: { session } }, signal })),
    placeholderData: keepPreviousData,
  });
}

export function useChangeMinimums(session: number | undefined) {
  const queries = useQueryClient();
  return useMutation({
    // by_word: that first flights end by the pilot's word, though their course is not done.
    mutationFn: ({ by_word = false, ...body }: PilotSettings & { by_word?: boolean }) =>
      take(client.PUT("/api/minimums", { params: { query: { session, by_word } }, body })),
    onSuccess: (minimums) => {
      queries.setQueryData([...minimumsKey, session ?? null], minimums);
      // Every session is judged again under them.
      void queries.invalidateQueries({ queryKey: sessionsKey });
    },
  });
}

export function useBeaufort() {
  return useQuery({
    queryKey: ["beaufort"],
    queryFn: async ({ signal }) =>
      (await take(client.GET("/api/wind/beaufort", { signal }))).forces,
    staleTime: Infinity,
  });
}

export function useLean(query: {
  tilt_deg: number;
  max_tilt_deg: number;
  fastest_ms: number;
  loading: number;
  elevation_m: number;
  temperature_c: number;
}) {
  return useQuery({
    queryKey: ["lean", query],
    queryFn: ({ signal }) => take(client.GET("/api/wind/lean", { params: { query }, signal })),
    placeholderData: keepPreviousData,
  });
}

export function useSessionActions() {
  const queries = useQueryClient();
  const once = useOnce();
  const refresh = () => queries.invalidateQueries({ queryKey: sessionsKey });
  const path = (id: number) => ({ params: { path: { session_id: id } } });
  return {
    begin: useMutation({
      mutationFn: (body: NewSession) =>
        take(client.POST("/api/sessions", { body, headers: once(body) })),
      onSuccess: refresh,
    }),
    importPlan: useMutation({
      // The file goes up as it is, so that the server names what it refuses.
      mutationFn: (text: string) =>
        take(
          client.POST("/api/sessions/import", {
            body: text as unknown as Plan,
            bodySerializer: (raw) => raw as unknown as string,
            headers: { "Content-Type": "application/json", ...once(text) },
          }),
        ),
      onSuccess: refresh,
    }),
    duplicate: useMutation({
      mutationFn: (id: number) =>
        take(
          client.POST("/api/sessions/{session_id}/duplicate", { ...path(id), headers: once(id) }),
        ),
      onSuccess: refresh,
    }),
    remove: useMutation({
      mutationFn: (id: number) => take(client.DELETE("/api/sessions/{session_id}", path(id))),
      onSuccess: refresh,
    }),
    restore: useMutation({
      mutationFn: (id: number) => take(client.POST("/api/sessions/{session_id}/restore", path(id))),
      onSuccess: refresh,
    }),
  };
}

export function useDecisions(sessionId: number) {
  return useQuery({
    queryKey: ["decisions", sessionId],
    queryFn: async ({ signal }) =>
      (
        await take(
          client.GET("/api/sessions/{session_id}/decisions", {
            params: { path: { session_id: sessionId } },
            signal,
          }),
        )
      ).decisions,
  });
}

export function useDecision(id: number) {
  return useQuery({
    queryKey: ["decision", id],
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/decisions/{decision_id}", {
          params: { path: { decision_id: id } },
          signal,
        }),
      ),
  });
}

export function useRecordDecision(sessionId: number, units: Units) {
  const queries = useQueryClient();
  const once = useOnce();
  return useMutation({
    mutationFn: (body: {
      word: PilotsWord;
      note: string;
      revision: number;
      said: Record<string, "in_order" | "not_known">;
    }) =>
      take(
        client.POST("/api/sessions/{session_id}/decisions", {
          params: { path: { session_id: sessionId }, query: units },
          body: { ...body, away: null },
          headers: once(body),
        }),
      ),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ["decisions", sessionId] });
      void queries.invalidateQueries({ queryKey: [...sessionsKey, "list"] });
    },
  });
}

export function useCheckCatalogue() {
  return useQuery({
    queryKey: ["checks"],
    queryFn: async ({ signal }) => (await take(client.GET("/api/checks", { signal }))).checks,
    staleTime: Infinity,
  });
}
