import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { Problem } from "../api/client";
import { refusalWords } from "../api/refusals";

export function Waiting({ what }: { what: string }) {
  return (
    <Box sx={{ p: 3 }} role="status">
      <Typography color="text.secondary">Loading {what}…</Typography>
      <LinearProgress sx={{ mt: 1, maxWidth: 320 }} />
    </Box>
  );
}

/** What went wrong, what is allowed instead, and the way on. */
export function ProblemNote({
  problem,
  again,
  back,
}: {
  problem: Problem;
  again?: () => void;
  back?: { to: string; words: string };
}) {
  return (
    <Alert
      severity="error"
      sx={{ m: 1 }}
      action={
        <>
          {again && (
            <Button color="inherit" onClick={again}>
              Try again
            </Button>
          )}
          {back && (
            <Button color="inherit" component={Link} to={back.to}>
              {back.words}
            </Button>
          )}
        </>
      }
    >
      {problem.message}
      {(problem.refusals ?? []).length > 0 && (
        <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
          {problem.refusals.map((r) => (
            <li key={r.key}>{refusalWords(r)}</li>
          ))}
        </Box>
      )}
    </Alert>
  );
}
