import Button from "@mui/material/Button";
import Dialog from "../../../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import List from "@mui/material/List";
import ListItemButton from "@mui/material/ListItemButton";
import ListItemText from "@mui/material/ListItemText";
import Typography from "@mui/material/Typography";
import type { Problem } from "../../../api/client";
import { useBeaufort } from "../../../api/queries";
import { ProblemNote, Waiting } from "../../../shell/notes";
import { useUnits } from "../../../shell/preferences";
import { numeral, written } from "../../../units/units";

/** Nobody launches in more than this; the rest of the scale would only be scrolled over. */
const WORTH_SHOWING = 9;

/** The wind by what leaves, branches, water and smoke do: the middle of the force is used. */
export function SightDialog({
  take,
  onClose,
}: {
  take: (speedMs: number) => void;
  onClose: () => void;
}) {
  const units = useUnits();
  const forces = useBeaufort();
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="sight-title">
      <DialogTitle id="sight-title">What do you see?</DialogTitle>
      <DialogContent>
        <Typography color="text.secondary">
          Beaufort’s scale, wind 10 m up. Lark uses the middle of the range; allow for the top of
          it.
        </Typography>
        {forces.isPending && <Waiting what="the scale" />}
        {forces.error && <ProblemNote problem={forces.error as Problem} />}
        <List>
          {forces.data?.slice(0, WORTH_SHOWING).map((f) => (
            <ListItemButton
              key={f.force}
              onClick={() => {
                take(f.middle_ms);
                onClose();
              }}
            >
              <ListItemText
                primary={`${f.land}. ${f.water}.`}
                secondary={
                  `Force ${f.force}: ${numeral(f.low_ms, "speed", units)} to ` +
                  `${written(f.high_ms, "speed", units)}, takes ${written(f.middle_ms, "speed", units)}`
                }
              />
            </ListItemButton>
          ))}
        </List>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Back</Button>
      </DialogActions>
    </Dialog>
  );
}
