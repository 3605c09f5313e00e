import CopyIcon from "@mui/icons-material/ContentCopy";
import DeleteIcon from "@mui/icons-material/DeleteOutlined";
import Box from "@mui/material/Box";
import IconButton from "@mui/material/IconButton";
import Tooltip from "@mui/material/Tooltip";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { useAway } from "../along/away";
import type { SessionSummary } from "../api/client";
import { PILOTS_WORDS } from "../decisions/words";
import { tone, VERDICT_WORDS, VerdictMark } from "../shell/marks";
import { clock, day } from "../shell/time";

/** A session in the list: its verdict, and the check that decides it. */
export function SessionRow({
  session,
  along,
  duplicate,
  remove,
}: {
  session: SessionSummary;
  /** Whether everything of it is on this device; undefined where that is no question. */
  along: boolean | undefined;
  duplicate: () => void;
  remove: () => void;
}) {
  const { tightest, verdict } = session;
  const away = useAway() !== null;
  const facts = [
    `${day(session.takeoff_at)}, ${clock(session.takeoff_at)}`,
    session.place,
    session.aircraft + (session.pack ? `, battery ${session.pack}` : ""),
    along && "on this device",
  ].filter(Boolean);
  return (
    <Box
      component="li"
      sx={{
        display: "flex",
        alignItems: "center",
        "& + &": { borderTop: 1, borderColor: "divider" },
      }}
    >
      <Box
        component={Link}
        to={`/sessions/${session.id}/plan${session.changes > 0 ? "?view=when" : ""}`}
        sx={{
          flex: 1,
          minWidth: 0,
          display: "grid",
          gridTemplateColumns: { xs: "48px minmax(0,1fr)", md: "48px minmax(0,5fr) minmax(0,6fr)" },
          gridTemplateAreas: { xs: '"mark what" "why why"', md: '"mark what why"' },
          columnGap: 1.5,
          rowGap: 0.5,
          alignItems: "center",
          p: 1.5,
          color: "inherit",
          textDecoration: "none",
          "&:hover": { bgcolor: "action.hover" },
        }}
      >
        <Box sx={{ gridArea: "mark", lineHeight: 0 }}>
          <VerdictMark verdict={verdict} size={44} />
        </Box>
        <Box sx={{ gridArea: "what", minWidth: 0 }}>
          <Typography component="h3" sx={{ fontWeight: 750, fontSize: "1.1rem", lineHeight: 1.2 }}>
            {session.title}
          </Typography>
          <Typography variant="body2" color="text.secondary">
            {facts.join(" · ")}
          </Typography>
          {session.word && (
            <Typography variant="body2">
              You decided: {PILOTS_WORDS[session.word].toLowerCase()}
            </Typography>
          )}
        </Box>
        <Box sx={{ gridArea: "why", minWidth: 0 }}>
          {session.changes > 0 && (
            <Typography variant="body2" sx={{ fontWeight: 750 }}>
              The forecast has changed what Lark says:{" "}
              {session.changes === 1 ? "1 change" : `${session.changes} changes`} to see
            </Typography>
          )}
          <Typography component="span" sx={{ fontWeight: 800, color: tone(verdict) }}>
            {VERDICT_WORDS[verdict]}
          </Typography>
          <Typography variant="body2">
            <b>{tightest.label}:</b> {tightest.sentence}
          </Typography>
        </Box>
      </Box>
      {/* What takes the server is not offered where there is none. */}
      {!away && (
        <Box sx={{ display: "flex", flexDirection: { xs: "column", sm: "row" }, pr: 0.5 }}>
          <Tooltip title="Duplicate">
            <IconButton aria-label={`Duplicate ${session.title}`} onClick={duplicate}>
              <CopyIcon />
            </IconButton>
          </Tooltip>
          <Tooltip title="Delete">
            <IconButton aria-label={`Delete ${session.title}`} onClick={remove}>
              <DeleteIcon />
            </IconButton>
          </Tooltip>
        </Box>
      )}
    </Box>
  );
}
