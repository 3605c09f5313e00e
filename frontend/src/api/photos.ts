import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Of, WaitingPhoto } from "../photos/waiting";
import { client, take } from "./client";
import { sendBytes } from "./sendBytes";

const key = (of: Of) => ["photos", of] as const;

/** The photos that the server has of a flight or of a place. */
export function usePhotos(of: Of) {
  return useQuery({
    queryKey: key(of),
    queryFn: async ({ signal }) => {
      const found = await ("flight" in of
        ? take(
            client.GET("/api/flights/{uid}/photos", {
              params: { path: { uid: of.flight } },
              signal,
            }),
          )
        : take(
            client.GET("/api/places/{place_id}/photos", {
              params: { path: { place_id: of.place } },
              signal,
            }),
          ));
      return found.photos;
    },
  });
}

export function useDeletePhoto(of: Of) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (uid: string) =>
      take(client.DELETE("/api/photos/{uid}", { params: { path: { uid } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: key(of) }),
  });
}

export const photoAddress = (uid: string) => `/api/photos/${uid}.jpg`;

export function sendPhoto({ uid, of, taken_at, data }: WaitingPhoto): Promise<unknown> {
  const asked = new URLSearchParams({ uid, taken_at });
  if ("flight" in of) asked.set("flight", of.flight);
  else asked.set("place", String(of.place));
  return sendBytes(`/api/photos?${asked}`, new File([data], "photo.jpg"));
}
