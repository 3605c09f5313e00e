import { useEffect } from "react";

const EVERY_MS = 5_000;

/** Try something now, every few seconds, and as soon as the network is back. It must be the same function each time. */
export function useTrying(go: () => void) {
  useEffect(() => {
    go();
    const timer = setInterval(go, EVERY_MS);
    window.addEventListener("online", go);
    return () => {
      clearInterval(timer);
      window.removeEventListener("online", go);
    };
  }, [go]);
}
