import Box from "@mui/material/Box";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { useDecisions } from "../api/queries";
import { VERDICT_WORDS, VerdictMark } from "../shell/marks";
import { moment } from "../shell/time";
import { PILOTS_WORDS } from "./words";

/** The decisions made in a session, the latest first. */
export function Decisions({ sessionId }: { sessionId: number }) {
  const { data } = useDecisions(sessionId);
  if (!data || data.length === 0) return null;
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
