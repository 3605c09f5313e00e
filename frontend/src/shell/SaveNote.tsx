import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { SaveState } from "../editing/openDocument";
import { refusalWords } from "../api/refusals";
import { whereKept } from "./device";

export function SaveNote({ saving, again }: { saving: SaveState; again: () => void }) {
  if (saving.kind === "failed") {
    return (
      <Typography role="alert" variant="body2" color="error">
        Not saved: {saving.problem.message} {whereKept()}{" "}
        {saving.problem.refusals.map((r) => `${refusalWords(r)} `)}
        <Button size="small" onClick={again}>
          Try again
        </Button>
      </Typography>
    );
  }
  return (
    <Typography variant="body2" color="text.secondary" aria-live="polite">
      {saving.kind === "saving" ? "Saving…" : "Saved"}
    </Typography>
  );
}
