import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useRef } from "react";
import { useWatch, useWatchActions } from "../api/forecasts";
import type { Problem } from "../api/client";
import { ProblemNote } from "../shell/notes";
import { momentHere } from "../shell/time";
import { VerdictMark } from "../shell/marks";
import { changeWords, foundWords } from "./words";

/** How verdict and windows of a session changed as its forecasts were renewed. Looked at, it counts as seen. */
export function WatchHistory({ sessionId }: { sessionId: number }) {
  const history = useWatch(sessionId);
  const { look, see } = useWatchActions();
  const watched = history.data ?? [];
  const unseen = watched.some((w) => !w.seen);
  const { mutate } = see;
  const told = useRef(false);
  useEffect(() => {
    if (!unseen || told.current) return;
    told.current = true;
    mutate(sessionId);
  }, [unseen, mutate, sessionId]);
  return (
    <Box component="section" aria-label="As the forecasts were renewed" sx={{ mt: 1.5 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, flexWrap: "wrap" }}>
        <Typography component="h3" sx={{ fontWeight: 750, flex: 1 }}>
          As the forecasts were renewed
        </Typography>
        <Button size="small" disabled={look.isPending} onClick={() => look.mutate()}>
          {look.isPending ? "Looking…" : "Look now"}
        </Button>
      </Box>
      {look.error && <ProblemNote problem={look.error as Problem} again={() => look.mutate()} />}
      {watched.length === 0 ? (
        <Typography color="text.secondary" variant="body2">
          Nothing yet. Within three days of the take-off, Lark asks your forecasts every half hour
          while it runs, and keeps every change of verdict or window here.
        </Typography>
      ) : (
        <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
          {watched.map((w, at) => {
            const before = watched[at + 1]?.found;
            return (
              <Box
                component="li"
                key={w.at}
                sx={{
                  display: "flex",
                  gap: 1,
                  alignItems: "center",
                  borderTop: 1,
                  borderColor: "divider",
                  py: 0.75,
                }}
              >
                <Box sx={{ flexShrink: 0, lineHeight: 0 }}>
                  <VerdictMark verdict={w.found.verdict} size={28} />
                </Box>
                <Box sx={{ minWidth: 0 }}>
                  <Typography sx={{ fontWeight: at === 0 ? 700 : 400 }}>
                    {momentHere(w.at)}:{" "}
                    {before ? changeWords(before, w.found) : foundWords(w.found)}
                  </Typography>
                  <Typography variant="body2" color="text.secondary">
                    {before && `${foundWords(w.found)} · `}
                    {w.found.source}, issued {momentHere(w.found.issued_at)}
                  </Typography>
                </Box>
              </Box>
            );
          })}
        </Box>
      )}
    </Box>
  );
}
