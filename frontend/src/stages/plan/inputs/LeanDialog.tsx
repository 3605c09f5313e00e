import Button from "@mui/material/Button";
import Dialog from "../../../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Plan, Problem } from "../../../api/client";
import { useLean } from "../../../api/queries";
import { ProblemNote } from "../../../shell/notes";
import { useUnits } from "../../../shell/preferences";
import { QuantityInput } from "../../../inputs/QuantityInput";
import { written } from "../../../units/units";

/** The wind by how far the aircraft leans while it holds still. */
export function LeanDialog({
  aircraft,
  elevationM,
  temperatureC,
  read = null,
  take,
  onClose,
}: {
  /** The lean that the aircraft says by itself, to begin with. */
  read?: number | null;
  aircraft: Plan["aircraft"];
  elevationM: number;
  temperatureC: number;
  take: (heightM: number, speedMs: number) => void;
  onClose: () => void;
}) {
  const units = useUnits();
  const [tilt, setTilt] = useState(read ?? 8);
  const [height, setHeight] = useState(30);
  const { slow, normal, fast } = aircraft.speeds_ms;
  const lean = useLean({
    tilt_deg: tilt,
    max_tilt_deg: aircraft.max_tilt_deg,
    fastest_ms: Math.max(slow, normal, fast),
    loading: Math.max(
      1,
      (aircraft.mass_g +
        aircraft.payload_g +
        aircraft.attachments.reduce((sum, a) => sum + a.mass_g, 0)) /
        aircraft.mass_g,
    ),
    elevation_m: elevationM,
    temperature_c: temperatureC,
  });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="lean-title">
      <DialogTitle id="lean-title">How far is it tilting?</DialogTitle>
      <DialogContent>
        <Typography color="text.secondary" sx={{ mb: 1 }}>
          Let it hover for 30 s, hands off the sticks, and read the tilt from the screen or against
          the horizon.
        </Typography>
        <QuantityInput
          label="Tilt"
          quantity="angle"
          value={tilt}
          min={0}
          max={aircraft.max_tilt_deg}
          onChange={setTilt}
        />
        <QuantityInput
          label="Hover height"
          quantity="length"
          value={height}
          min={2}
          max={120}
          onChange={setHeight}
        />
        {lean.error && <ProblemNote problem={lean.error as Problem} />}
        <Typography aria-live="polite" sx={{ fontSize: "1.2rem", fontWeight: 750, mt: 1 }}>
          {lean.data ? `${written(lean.data.speed_ms, "speed", units)} of wind` : "…"}
        </Typography>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Back</Button>
        <Button
          variant="contained"
          disabled={!lean.data || lean.isPlaceholderData}
          onClick={() => {
            if (lean.data) take(height, lean.data.speed_ms);
            onClose();
          }}
        >
          Use this wind
        </Button>
      </DialogActions>
    </Dialog>
  );
}
