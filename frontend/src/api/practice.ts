import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import {
  caseHere,
  keepRoom,
  keptRoom,
  putCases,
  putFlights,
  roomAway,
  seedsHere,
} from "../practice/ahead";
import { keepFlights } from "../practice/flights";
import { markBy } from "../practice/marking";
import { keepSaid, letGoOfSaid, saidWaiting, sendSaid } from "../practice/said";
import { useTrying } from "../shell/useTrying";
import type { Units } from "../units/units";
import { client, isRefused, take } from "./client";
import { flightsAhead } from "./homeward";
import type { components } from "./schema";

export type Room = components["schemas"]["PracticeRoom"];
/** away: as it was, with what is on this device. */
export type RoomNow = Room & { away?: boolean };
export type FamilyNow = components["schemas"]["PracticeFamily"];
export type Posed = components["schemas"]["CasePosed"];
export type AnswerIn = components["schemas"]["CaseAnswer"];
export type CaseKey = components["schemas"]["CaseKey"];
export type CaseAhead = components["schemas"]["CaseAhead"];
/** due is null where it was marked on the device: when it comes again is worked out later. */
export type Marked = Omit<components["schemas"]["CaseMarked"], "due"> & { due: string | null };

const practiceKey = ["practice"] as const;
const roomKey = [...practiceKey, "room"] as const;

async function askRoom(signal: AbortSignal): Promise<RoomNow> {
  try {
    const room = await take(client.GET("/api/practice", { signal }));
    void keepRoom(room);
    return room;
  } catch (error) {
    if (isRefused(error)) throw error;
    const room = await keptRoom();
    if (room === null) throw error;
    return { ...roomAway(room, await seedsHere(), saidWaiting()), away: true };
  }
}

export function usePractice() {
  return useQuery({ queryKey: roomKey, queryFn: ({ signal }) => askRoom(signal) });
}

const askCase = (family: string, seed: number, units: Units, signal: AbortSignal) =>
  take(
    client.GET("/api/practice/{family}/{seed}", {
      params: { path: { family, seed }, query: units },
      signal,
    }),
  );

export function usePosed(family: string, seed: number, units: Units) {
  return useQuery({
    queryKey: [...practiceKey, "case", family, seed, units],
    queryFn: ({ signal }) =>
      askCase(family, seed, units, signal).catch(async (error: unknown) => {
        const here = isRefused(error) ? null : await caseHere(family, seed);
        if (here === null) throw error;
        return here.posed;
      }),
    // A case is the same as long as gear and minimums are.
    staleTime: 60_000,
  });
}

const sendAnswer = (family: string, seed: number, body: AnswerIn, units?: Units) =>
  take(
    client.POST("/api/practice/{family}/{seed}", {
      params: { path: { family, seed }, query: units },
      body,
    }),
  );

/** Answer a case. It is kept on the device first; out of reach, a case that is here is marked here. */
async function answerOrMark(
  family: string,
  seed: number,
  body: AnswerIn,
  units: Units,
): Promise<Marked> {
  keepSaid(family, seed, body);
  try {
    const marked = await sendAnswer(family, seed, body, units);
    letGoOfSaid(body.uid);
    return marked;
  } catch (error) {
    const here = isRefused(error) ? null : await caseHere(family, seed);
    if (isRefused(error) || here === null) {
      letGoOfSaid(body.uid);
      throw error;
    }
    const { word, tightest, sure_pct } = body;
    const { verdict, deciding } = here.key;
    const { teaches, plan, result } = here;
    const marks = markBy(here.key, body);
    return {
      ...marks,
      word,
      tightest,
      sure_pct,
      verdict,
      deciding,
      teaches,
      plan,
      result,
      due: null,
    };
  }
}

export function useAnswer(family: string, seed: number, units: Units) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: AnswerIn) => answerOrMark(family, seed, body, units),
    onSuccess: () => queries.invalidateQueries({ queryKey: roomKey }),
  });
}

/** Sends up the answers that wait on this device; how many still do. */
export function useSendingSaid(): number {
  const queries = useQueryClient();
  const [waiting, setWaiting] = useState(() => saidWaiting().length);
  const go = useCallback(() => {
    setWaiting(saidWaiting().length);
    if (saidWaiting().length === 0) return;
    void sendSaid((family, seed, said) => sendAnswer(family, seed, said)).then((sent) => {
      setWaiting(saidWaiting().length);
      if (sent > 0) void queries.invalidateQueries({ queryKey: roomKey });
    });
  }, [queries]);
  useTrying(go);
  return waiting;
}

export interface AheadNow {
  /** Cases on this device. */
  here: number;
  /** Families done of all, while cases are being made; null when none are. */
  making: { done: number; of: number } | null;
  error: Error | null;
  make: () => void;
}

/** Cases made ahead: how many are on this device, and making twenty of each kind again. */
export function useCasesAhead(families: readonly string[], units: Units): AheadNow {
  const [here, setHere] = useState(0);
  const [making, setMaking] = useState<AheadNow["making"]>(null);
  const [error, setError] = useState<Error | null>(null);
  const count = useCallback(
    () =>
      seedsHere().then((found) =>
        setHere([...found.values()].reduce((sum, seeds) => sum + seeds.length, 0)),
      ),
    [],
  );
  useEffect(() => void count(), [count]);
  const make = useCallback(() => {
    const all = async () => {
      for (const [done, family] of families.entries()) {
        setMaking({ done, of: families.length + 1 });
        const params = { path: { family }, query: units };
        const { cases } = await take(client.GET("/api/practice/{family}/ahead", { params }));
        await putCases(family, cases);
      }
      setMaking({ done: families.length, of: families.length + 1 });
      await keepFlights(1);
      await putFlights(await flightsAhead(units));
    };
    setError(null);
    void all()
      .catch((cause: unknown) => setError(cause as Error))
      .finally(() => {
        setMaking(null);
        void count();
      });
  }, [families, units, count]);
  return { here, making, error, make };
}
