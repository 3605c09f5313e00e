import { useCallback, useState } from "react";
import { drop, keep, kept } from "../shell/device";

/** A drill that was started in a session, and has no result yet. Kept on the device: a reload loses nothing. */
export interface Running {
  drill: string;
  at: string;
}

const keyOf = (session: number) => `lark.drill.${session}`;

/** The drill that is under way in a session. */
export function useRunning(session: number) {
  const [running, setRunning] = useState<Running | null>(() => kept<Running>(keyOf(session)));
  const begin = useCallback(
    (drill: string) => {
      const now: Running = { drill, at: new Date().toISOString() };
      keep(keyOf(session), now);
      setRunning(now);
    },
    [session],
  );
  const end = useCallback(() => {
    drop(keyOf(session));
    setRunning(null);
  }, [session]);
  return { running, begin, end };
}
