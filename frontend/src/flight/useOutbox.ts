import { useCallback, useState } from "react";
import { useTrying } from "../shell/useTrying";
import { keptFlights, unsent } from "./record";
import { sendUp } from "./sending";

/** Sends up what flights left on this device, wherever in Lark the pilot is; how many events wait, and what was refused. */
export function useOutbox(): { waiting: number; refused: string | null } {
  const [state, setState] = useState<{ waiting: number; refused: string | null }>({
    waiting: 0,
    refused: null,
  });
  const go = useCallback(async () => {
    const outcome = await sendUp();
    const waiting = keptFlights().reduce((sum, record) => sum + unsent(record).length, 0);
    const refused = typeof outcome === "object" ? outcome.refused : null;
    setState((before) =>
      before.waiting === waiting && before.refused === refused ? before : { waiting, refused },
    );
  }, []);
  useTrying(useCallback(() => void go(), [go]));
  return state;
}
