import Button from "@mui/material/Button";
import Dialog from "../../../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Plan } from "../../../api/client";
import { OptionalQuantityInput, QuantityInput } from "../../../inputs/QuantityInput";

type Wind = Plan["weather"]["winds"][number];

/** A wind that is read or heard: nothing enters the plan before its speed is said. */
export function ReadingDialog({
  title,
  begins,
  take,
  onClose,
}: {
  title: string;
  /** Height, direction and source of the reading; its speed is asked for. */
  begins: Wind;
  take: (wind: Wind) => void;
  onClose: () => void;
}) {
  const [wind, setWind] = useState({ ...begins, gust_ms: null as number | null | undefined });
  const [speed, setSpeed] = useState<number | null>(null);
  const [missing, setMissing] = useState(false);
  const common = { slider: false, min: 0, max: 25, most: 75 };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="reading-title">
      <DialogTitle id="reading-title">{title}</DialogTitle>
      <DialogContent>
        <QuantityInput
          {...common}
          key={speed === null ? "asked" : "said"}
          label="Wind"
          quantity="speed"
          value={speed ?? 0}
          unsaid={speed === null}
          onChange={setSpeed}
        />
        {missing && speed === null && (
          <Typography role="alert" variant="body2" color="error">
            Type the wind first.
          </Typography>
        )}
        <OptionalQuantityInput
          {...common}
          label="Gusts"
          quantity="speed"
          unknown="not read"
          first={speed ?? 0}
          least={speed ?? 0}
          value={wind.gust_ms}
          onChange={(gust_ms) => setWind({ ...wind, gust_ms })}
        />
        <QuantityInput
          label="Wind from"
          quantity="angle"
          slider={false}
          min={0}
          max={360}
          value={wind.direction_deg}
          onChange={(direction_deg) => setWind({ ...wind, direction_deg })}
        />
        <QuantityInput
          label="At a height of"
          quantity="length"
          slider={false}
          min={0.5}
          max={1000}
          digits={wind.height_m < 10 ? 1 : 0}
          value={wind.height_m}
          onChange={(height_m) => setWind({ ...wind, height_m })}
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Back</Button>
        <Button
          variant="contained"
          onClick={() => {
            if (speed === null) return setMissing(true);
            const gust_ms = wind.gust_ms == null ? null : Math.max(wind.gust_ms, speed);
            take({ ...wind, speed_ms: speed, gust_ms });
            onClose();
          }}
        >
          Take this wind
        </Button>
      </DialogActions>
    </Dialog>
  );
}
