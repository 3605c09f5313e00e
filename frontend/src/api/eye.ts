import { useQuery } from "@tanstack/react-query";
import { client, take } from "./client";
import type { components } from "./schema";

export type EyeRoom = components["schemas"]["EyeOut"];

export const eyeKey = ["practice", "eye"] as const;

/** Aircraft to look for, and what was found of the pilot's eye. */
export function useEye() {
  return useQuery({
    queryKey: eyeKey,
    queryFn: ({ signal }) => take(client.GET("/api/practice/eye", { signal })),
  });
}
