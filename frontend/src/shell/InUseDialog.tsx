import Button from "@mui/material/Button";
import Dialog from "./Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { Use } from "../api/client";

const SHOWN = 5;

/** Before something that sessions use is deleted: which they are, and what happens to them. */
export function InUseDialog({
  name,
  uses,
  after,
  remove,
  onClose,
}: {
  name: string;
  uses: Use[];
  /** What happens to the sessions, as a sentence. */
  after: string;
  remove: () => void;
  onClose: () => void;
}) {
  const more = uses.length - SHOWN;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="in-use">
      <DialogTitle id="in-use">Delete {name}?</DialogTitle>
      <DialogContent>
        <Typography>
          {uses.length === 1 ? "A session uses it:" : `${uses.length} sessions use it:`}
        </Typography>
        <ul style={{ marginTop: 4 }}>
          {uses.slice(0, SHOWN).map((use) => (
            <li key={use.id}>
              <Link to={`/sessions/${use.id}/plan`}>{use.title}</Link>
            </li>
          ))}
          {more > 0 && <li>and {more} more</li>}
        </ul>
        <Typography>{after}</Typography>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Keep it</Button>
        <Button
          variant="contained"
          color="error"
          onClick={() => {
            remove();
            onClose();
          }}
        >
          Delete
        </Button>
      </DialogActions>
    </Dialog>
  );
}
