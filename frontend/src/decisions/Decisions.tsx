import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { useDecisions } from "../api/queries";
import { VERDICT_WORDS, VerdictMark } from "../shell/marks";
import { letGoOf, useDecided, type Decided } from "../outbox/decided";
import { moment } from "../shell/time";
import { PILOTS_WORDS } from "./words";

/** A decision that was made without the server, and is on this device until it is back. */
function Waiting({ decided }: { decided: Decided }) {
  const { word, at, note, result, refused } = decided;
  return (
    <Box
      component="li"
      sx={{ display: "flex", alignItems: "center", gap: 1.25, minHeight: 48, flexWrap: "wrap" }}
    >
      <VerdictMark verdict={result.verdict} size={22} />
      <b>{PILOTS_WORDS[word]}</b>
      <span>
        {moment(at)}, on “{VERDICT_WORDS[result.verdict].toLowerCase()}
        {result.tables_of ? ", by tables" : ""}”
      </span>
      <Typography component="span" variant="body2" role="status" sx={{ flexBasis: "100%" }}>
        {note && `${note} · `}
        {refused
          ? `Not taken by the server: ${refused}`
          : "Saved on this device. It uploads when the server is back."}
      </Typography>
      {refused && (
        <Button sx={{ minHeight: 48 }} onClick={() => letGoOf(decided)}>
          Remove from this device
        </Button>
      )}
    </Box>
  );
}

/** The decisions made in a session, the latest first. */
export function Decisions({ sessionId }: { sessionId: number }) {
  const data = useDecisions(sessionId).data ?? [];
  const waiting = useDecided(sessionId);
  if (data.length === 0 && waiting.length === 0) return null;
  return (
    <Paper
      component="section"
      variant="outlined"
      aria-labelledby="decisions"
      sx={{ borderRadius: "14px", px: 2, py: 1.25 }}
    >
      <Typography variant="h2" id="decisions">
        Decisions
      </Typography>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {waiting.map((d) => (
          <Waiting key={d.uid} decided={d} />
        ))}
        {data.map((d) => (
          <li key={d.id}>
            <Box
              component={Link}
              to={`/sessions/${sessionId}/decisions/${d.id}`}
              sx={{
                display: "flex",
                alignItems: "center",
                gap: 1.25,
                minHeight: 48,
                color: "inherit",
                borderTop: 1,
                borderColor: "divider",
              }}
            >
              <VerdictMark verdict={d.verdict} size={22} />
              <b>{PILOTS_WORDS[d.word]}</b>
              <span>
                {moment(d.decided_at)}, on “{VERDICT_WORDS[d.verdict].toLowerCase()}”
              </span>
              <Typography component="span" color="text.secondary" noWrap sx={{ flex: 1 }}>
                {d.note}
              </Typography>
            </Box>
          </li>
        ))}
      </Box>
    </Paper>
  );
}
