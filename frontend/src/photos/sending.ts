import { useQueryClient } from "@tanstack/react-query";
import { useCallback } from "react";
import { isRefused } from "../api/client";
import { sendPhoto } from "../api/photos";
import { keptFlights } from "../flight/record";
import { useTrying } from "../shell/useTrying";
import { keepPhoto, letGoOfPhoto, photosWaiting, readWaiting, type WaitingPhoto } from "./waiting";

/** How a photo goes up; given in tests. */
export type Put = (photo: WaitingPhoto) => Promise<unknown>;

let running: Promise<boolean> | null = null;

/** Send what waits, each after the flight that it is of. Whether any went up. */
export function sendPhotos(
  by: Put = sendPhoto,
  flights: () => { uid: string }[] = keptFlights,
): Promise<boolean> {
  running ??= sendAll(by, flights).finally(() => {
    running = null;
  });
  return running;
}

async function sendAll(by: Put, flights: () => { uid: string }[]): Promise<boolean> {
  await readWaiting();
  let sent = false;
  for (const photo of photosWaiting()) {
    if (photo.refused) continue;
    const { of } = photo;
    // A flight that is still kept here may not be with the server yet.
    if ("flight" in of && flights().some(({ uid }) => uid === of.flight)) continue;
    try {
      await by(photo);
    } catch (error) {
      if (!isRefused(error)) return sent;
      // The pilot's photo: it stays here until the pilot has seen why.
      await keepPhoto({ ...photo, refused: error.message });
      continue;
    }
    await letGoOfPhoto(photo.uid);
    sent = true;
  }
  return sent;
}

/** Sends up the photos that wait on this device, wherever in Lark the pilot is. */
export function useSendingPhotos() {
  const queries = useQueryClient();
  const go = useCallback(() => {
    void sendPhotos().then((sent) => {
      if (sent) void queries.invalidateQueries({ queryKey: ["photos"] });
    });
  }, [queries]);
  useTrying(go);
}
