import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { eyeKey } from "../api/eye";
import { useTrying } from "../shell/useTrying";
import { looksWaiting, sendLooks } from "./kept";

/** Sends up the looks that wait on this device: how many still do, and why one was not taken. */
export function useSendingLooks() {
  const queries = useQueryClient();
  const [waiting, setWaiting] = useState(() => looksWaiting().length);
  const [refused, setRefused] = useState<string | null>(null);
  const send = useCallback(() => {
    const now = looksWaiting().length;
    setWaiting(now);
    if (now === 0) return;
    void sendLooks().then((sent) => {
      setWaiting(looksWaiting().length);
      setRefused((before) => sent.refused ?? before);
      if (sent.found) void queries.invalidateQueries({ queryKey: eyeKey });
    });
  }, [queries]);
  useTrying(send);
  return { waiting, refused, send };
}
