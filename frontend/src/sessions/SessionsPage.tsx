import AddIcon from "@mui/icons-material/Add";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Paper from "@mui/material/Paper";
import Snackbar from "@mui/material/Snackbar";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { Link, Navigate, useNavigate, useSearchParams } from "react-router";
import { useAllTaken } from "../along/useTaken";
import type { Problem, SessionSummary } from "../api/client";
import { useSessionActions, useSessions } from "../api/queries";
import { useSettled } from "../api/settled";
import { useUnits } from "../shell/preferences";
import { ProblemNote, Waiting } from "../shell/notes";
import { CAUTION } from "../shell/Seal";
import { useNow } from "../shell/useNow";
import { wasLeft } from "../start/draft";
import { NewSessionDialog } from "./NewSessionDialog";
import { DaysAhead } from "./DaysAhead";
import { SessionRow } from "./SessionRow";
import { useWide } from "../shell/useWide";

/** All sessions, each with its verdict as it stands: what is ahead first, then what is over. */
export function SessionsPage() {
  const units = useUnits();
  const actions = useSessionActions();
  const navigate = useNavigate();
  const now = useNow();
  const [params, setParams] = useSearchParams();
  const [deleted, setDeleted] = useState<SessionSummary | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  // The address follows the typing; the other way round, letters typed fast would be lost.
  const [words, setWords] = useState(params.get("find") ?? "");
  const adding = params.has("new");
  const sought = useSettled(words.trim(), 200);
  const wide = useWide();
  const taken = useAllTaken();
  const sessions = useSessions(units, sought);
  // What is shown may still be the answer to other words.
  const empty = sessions.data?.total === 0 && sought === "" && !sessions.isPlaceholderData;

  useEffect(() => {
    document.title = "Sessions · Lark";
  }, []);

  const find = (next: string) => {
    setWords(next);
    withParam("find", next);
  };

  const withParam = (name: string, value: string | null) =>
    setParams(
      (old) => {
        const next = new URLSearchParams(old);
        if (value === null || (name === "find" && value === "")) next.delete(name);
        else next.set(name, value);
        return next;
      },
      { replace: true },
    );

  const guarded = async (work: Promise<unknown>) => {
    setProblem(null);
    try {
      await work;
      return true;
    } catch (cause) {
      setProblem(cause as Problem);
      return false;
    }
  };

  if (sessions.isPending) return <Waiting what="your sessions" />;
  if (sessions.error)
    return (
      <ProblemNote problem={sessions.error as Problem} again={() => void sessions.refetch()} />
    );

  if (empty && !adding && !deleted && !wasLeft()) return <Navigate to="/start" replace />;
  const found = sessions.data.sessions;
  const ahead = found.filter((s) => new Date(s.takeoff_at) >= now);
  const over = found.filter((s) => new Date(s.takeoff_at) < now);
  const row = (session: SessionSummary) => (
    <SessionRow
      key={session.id}
      session={session}
      along={wide ? undefined : taken.has(session.id)}
      duplicate={async () => {
        let id = 0;
        const copy = actions.duplicate.mutateAsync(session.id).then((made) => (id = made.id));
        if (await guarded(copy)) await navigate(`/sessions/${id}/plan`);
      }}
      remove={async () => {
        if (await guarded(actions.remove.mutateAsync(session.id))) setDeleted(session);
      }}
    />
  );

  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 1160 }}>
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", flexWrap: "wrap", mb: 1.5 }}>
        <Typography variant="h1" sx={{ flex: { xs: "1 0 100%", sm: 1 } }}>
          Sessions
        </Typography>
        <TextField
          id="find"
          size="small"
          type="search"
          label="Search"
          value={words}
          onChange={(e) => find(e.target.value)}
          sx={{ flex: { xs: 1, sm: "0 0 240px" } }}
        />
        <Button component={Link} to="/shared" sx={{ display: { xs: "none", sm: "inline-flex" } }}>
          From another pilot
        </Button>
        <Button variant="contained" startIcon={<AddIcon />} onClick={() => withParam("new", "")}>
          New session
        </Button>
      </Box>
      {problem && <ProblemNote problem={problem} />}
      {empty && (
        <Paper variant="outlined" sx={{ p: 4, borderRadius: "14px", textAlign: "center" }}>
          <Typography variant="h2">No sessions yet</Typography>
          <Typography sx={{ my: 1 }}>
            Create one for your next flight: enter the place, time and wind. Lark checks them as you
            type.
          </Typography>
          <Button variant="contained" component={Link} to="/start">
            From your aircraft to a first verdict
          </Button>
        </Paper>
      )}
      {!empty && found.length === 0 && (
        <Typography sx={{ my: 3 }}>
          No session matches “{words}”. <Button onClick={() => find("")}>Show all</Button>
        </Typography>
      )}
      {wide && <DaysAhead sessions={ahead} now={now} />}
      <Section title="Upcoming" sessions={ahead} row={row} />
      <Section title="Past" sessions={over} row={row} />
      {sessions.hasNextPage && (
        <Button
          variant="outlined"
          disabled={sessions.isFetchingNextPage}
          onClick={() => void sessions.fetchNextPage()}
        >
          Show more: {found.length} of {sessions.data.total} are shown
        </Button>
      )}
      <Typography variant="body2" color="text.secondary" sx={{ mt: 2 }}>
        {CAUTION} Local rules, the land owner, the aircraft’s manual and your aviation authority
        decide.
      </Typography>
      {adding && (
        <NewSessionDialog
          sessions={found}
          onClose={() => withParam("new", null)}
          onMade={(id) => void navigate(`/sessions/${id}/plan`)}
        />
      )}
      <Snackbar
        open={deleted !== null}
        autoHideDuration={12_000}
        onClose={(_, why) => why !== "clickaway" && setDeleted(null)}
        message={`Deleted “${deleted?.title ?? ""}”`}
        action={
          <Button
            color="inherit"
            onClick={() => {
              if (deleted) void guarded(actions.restore.mutateAsync(deleted.id));
              setDeleted(null);
            }}
          >
            Undo
          </Button>
        }
      />
    </Box>
  );
}

function Section({
  title,
  sessions,
  row,
}: {
  title: string;
  sessions: SessionSummary[];
  row: (session: SessionSummary) => React.ReactNode;
}) {
  if (sessions.length === 0) return null;
  return (
    <Box component="section" aria-label={title} sx={{ mb: 2 }}>
      <Typography variant="h2" sx={{ mb: 0.75 }}>
        {title}
      </Typography>
      <Paper
        component="ul"
        variant="outlined"
        sx={{ listStyle: "none", p: 0, m: 0, borderRadius: "14px" }}
      >
        {sessions.map(row)}
      </Paper>
    </Box>
  );
}
