import Alert from "@mui/material/Alert";
import Snackbar from "@mui/material/Snackbar";
import { useEffect, useState } from "react";
import { useAway, useReturns, type Away } from "./away";
import { takenAt } from "./takenAt";

/** In bad reception the server comes and goes: what lies under a thumb must not move with it [ms]. */
const STAYS_MS = 3_000;

/** That the server is out of reach, and a little longer than that. */
function useLingering(away: Away | null): Away | null {
  const [last, setLast] = useState(away);
  if (away && away !== last) setLast(away);
  useEffect(() => {
    if (away || !last) return;
    const timer = setTimeout(() => setLast(null), STAYS_MS);
    return () => clearTimeout(timer);
  }, [away, last]);
  return away ?? last;
}

/** What is shown while the server is out of reach, and how far it can be relied on. */
export function AwayBar() {
  const away = useLingering(useAway());
  if (!away) return null;
  return (
    <Alert
      role="status"
      aria-label="Server"
      severity="warning"
      icon={false}
      square
      sx={{ py: 0, borderBottom: 1 }}
    >
      Server unavailable. As taken along {takenAt(away.since)}.
      {away.fit === "as it was" && " Your changes since are kept on this device, and not checked."}
      {away.fit === "by tables" &&
        " Your changes since are kept here and checked by the field tables."}
    </Alert>
  );
}

/** Says once that the connection is back. Low and untouchable, so that it hides no verdict and blocks no button. */
export function BackAgain() {
  const returns = useReturns();
  const [seen, setSeen] = useState(returns);
  return (
    <Snackbar
      open={returns > seen}
      autoHideDuration={5_000}
      onClose={() => setSeen(returns)}
      anchorOrigin={{ vertical: "bottom", horizontal: "center" }}
      sx={{ pointerEvents: "none", bottom: { xs: 64, sm: 24 }, "& > *": { pointerEvents: "none" } }}
      message="The connection to Lark broke and is back. Nothing is lost."
    />
  );
}
