import Button from "@mui/material/Button";
import Dialog from "../../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useState } from "react";
import { useDevices } from "../../api/site";
import { QuantityInput } from "../../inputs/QuantityInput";

/** The charge it came down with ends the flight. */
export function LandDialog({
  expected,
  most,
  onClose,
  land,
}: {
  expected: number;
  most: number;
  onClose: () => void;
  land: (charge: number) => void;
}) {
  const says = useDevices().data?.aircraft?.says.charge_pct ?? null;
  const [charge, setCharge] = useState(Math.min(Math.round(says ?? expected), Math.round(most)));
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs">
      <DialogTitle>Landed</DialogTitle>
      <DialogContent>
        <QuantityInput
          label="Charge it landed with"
          quantity="percent"
          min={0}
          max={100}
          value={charge}
          onChange={setCharge}
          hint={says === null ? "as read now" : "as the aircraft says"}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Still flying</Button>
        <Button variant="contained" sx={{ minHeight: 52 }} onClick={() => land(charge)}>
          End flight
        </Button>
      </DialogActions>
    </Dialog>
  );
}
