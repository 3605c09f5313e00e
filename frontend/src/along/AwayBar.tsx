import Alert from "@mui/material/Alert";
import { useAway } from "./away";
import { takenAt } from "./takenAt";

/** What is shown while the server is out of reach, and how far it can be relied on. */
export function AwayBar() {
  const away = useAway();
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
