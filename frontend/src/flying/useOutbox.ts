import { useEffect, useState } from "react";
import { keptFlights, unsent } from "./record";
import { sendUp } from "./sending";

const EVERY_MS = 5_000;

/** Sends up what flights left on this device, wherever in Lark the pilot is; how many events wait, and what was refused. */
export function useOutbox(): { waiting: number; refused: string | null } {
  const [state, setState] = useState<{ waiting: number; refused: string | null }>({
    waiting: 0,
    refused: null,
  });
  useEffect(() => {
    let over = false;
    const go = async () => {
      const outcome = await sendUp();
      if (over) return;
      const waiting = keptFlights().reduce((sum, record) => sum + unsent(record).length, 0);
      const refused = typeof outcome === "object" ? outcome.refused : null;
      setState((before) =>
        before.waiting === waiting && before.refused === refused ? before : { waiting, refused },
      );
    };
    void go();
    const timer = setInterval(() => void go(), EVERY_MS);
    const online = () => void go();
    window.addEventListener("online", online);
    return () => {
      over = true;
      clearInterval(timer);
      window.removeEventListener("online", online);
    };
  }, []);
  return state;
}
