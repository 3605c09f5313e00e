import { useEffect, useState } from "react";
import { allTaken, watchTaken, type Taken } from "./store";

/** The sessions that are along on this device, by their number. */
export function useAllTaken(): ReadonlyMap<number, Taken> {
  const [all, setAll] = useState<ReadonlyMap<number, Taken>>(new Map());
  useEffect(() => {
    let gone = false;
    const look = () =>
      void allTaken().then((taken) => {
        if (!gone) setAll(new Map(taken.map((t) => [t.session, t])));
      });
    look();
    const forget = watchTaken(look);
    return () => {
      gone = true;
      forget();
    };
  }, []);
  return all;
}

export const useTaken = (session: number): Taken | undefined => useAllTaken().get(session);
