import { useQuery } from "@tanstack/react-query";
import { client, take } from "./client";
import type { components } from "./schema";
import { sendBytes } from "./sendBytes";

export type Given = components["schemas"]["GivenOut"];
export type Shared = components["schemas"]["SharedOut"];
export type LeftOut = Given["left_out"][number];

/** What is given away: a session or a place, by its number. */
export type What = { kind: "session" | "place"; id: number };

export const shareAddress = ({ kind, id }: What) => `/api/${kind}s/${id}/share`;

/** How large its file is, and its codes; made of what is saved now. */
export function useGiven(what: What, flush: () => Promise<unknown>) {
  return useQuery({
    queryKey: ["share", what],
    queryFn: async ({ signal }): Promise<Given> => {
      await flush();
      return what.kind === "session"
        ? take(
            client.GET("/api/sessions/{session_id}/share", {
              params: { path: { session_id: what.id } },
              signal,
            }),
          )
        : take(
            client.GET("/api/places/{place_id}/share", {
              params: { path: { place_id: what.id } },
              signal,
            }),
          );
    },
    gcTime: 0,
  });
}

/** What another pilot gave: a file, or the codes that were read so far. */
export const lookAt = (given: File | string[]) =>
  sendBytes<Shared>(
    "/api/shared",
    given instanceof File ? given : new File([given.join("\n")], "codes.txt"),
  );
