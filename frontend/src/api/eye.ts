import { useQuery } from "@tanstack/react-query";
import { keep, kept } from "../shell/device";
import { client, isRefused, take } from "./client";
import type { components } from "./schema";

export type EyeRoom = components["schemas"]["EyeOut"];

const ROOM = "lark.eye.room";

export const eyeKey = ["practice", "eye"] as const;

/** Aircraft to look for, and what was found of the pilot's eye. */
export function useEye() {
  return useQuery({
    queryKey: eyeKey,
    queryFn: ({ signal }) =>
      take(client.GET("/api/practice/eye", { signal })).then(
        (room) => {
          keep(ROOM, room);
          return room;
        },
        (error: unknown) => {
          // Out of reach, a look begins by what was known last.
          const room = isRefused(error) ? null : kept<EyeRoom>(ROOM);
          if (room === null) throw error;
          return room;
        },
      ),
  });
}
