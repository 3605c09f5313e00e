import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Units } from "../units/units";
import { client, take } from "./client";
import type { components } from "./schema";

export type Room = components["schemas"]["PracticeRoom"];
export type FamilyNow = components["schemas"]["PracticeFamily"];
export type Posed = components["schemas"]["CasePosed"];
export type AnswerIn = components["schemas"]["CaseAnswer"];
export type Marked = components["schemas"]["CaseMarked"];

const practiceKey = ["practice"] as const;

export function usePractice() {
  return useQuery({
    queryKey: [...practiceKey, "room"],
    queryFn: ({ signal }) => take(client.GET("/api/practice", { signal })),
  });
}

export function usePosed(family: string, seed: number, units: Units) {
  return useQuery({
    queryKey: [...practiceKey, "case", family, seed, units],
    queryFn: ({ signal }) =>
      take(
        client.GET("/api/practice/{family}/{seed}", {
          params: { path: { family, seed }, query: units },
          signal,
        }),
      ),
    // A case is the same as long as gear and minimums are.
    staleTime: 60_000,
  });
}

export function useAnswer(family: string, seed: number, units: Units) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (body: AnswerIn) =>
      take(
        client.POST("/api/practice/{family}/{seed}", {
          params: { path: { family, seed }, query: units },
          body,
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: [...practiceKey, "room"] }),
  });
}
