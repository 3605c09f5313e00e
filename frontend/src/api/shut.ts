import { useSyncExternalStore } from "react";

/** Whether the server has said that this device is not let in; only signing in and loading again ends that. */
let shut = false;
const listeners = new Set<() => void>();

export function noteStatus(status: number) {
  if (status !== 401 || shut) return;
  shut = true;
  listeners.forEach((tell) => tell());
}

export const useShut = () =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => shut,
  );
