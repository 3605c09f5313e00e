import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { onSaved } from "../editing/opened";

/** What the server works out from a session, a place or a landing, by the first word of its key. */
const WORKED_OUT = new Set([
  "sessions",
  "airborne",
  "after",
  "kit",
  "outing",
  "decisions",
  "minimums",
  "on-site",
  "places",
]);

/** Whatever page is open, what rests on a document is asked again once that was saved, here or in another window. */
export function useSavedNews() {
  const queries = useQueryClient();
  useEffect(
    () =>
      onSaved(() => {
        void queries.invalidateQueries({
          predicate: ({ queryKey }) => WORKED_OUT.has(queryKey[0] as string),
        });
      }),
    [queries],
  );
}
