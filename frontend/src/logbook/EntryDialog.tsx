import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Dialog from "../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { FlightEntry, Problem } from "../api/client";
import { useWall } from "../api/timeZone";
import { ProblemNote } from "../shell/notes";
import { isoOf } from "../shell/time";
import { useUnits } from "../shell/preferences";
import { meant, shown, unitName, type Quantity } from "../units/units";
import { hours, spent } from "./words";

type NumberKey =
  | "seconds"
  | "charge_from_pct"
  | "charge_to_pct"
  | "wind_predicted_ms"
  | "wind_met_ms"
  | "distance_m"
  | "height_m"
  | "latitude"
  | "longitude";

const NUMBERS: { key: NumberKey; label: string; quantity: Quantity; per?: number }[] = [
  { key: "seconds", label: "Time in the air", quantity: "minutes", per: 60 },
  { key: "charge_from_pct", label: "Charge at take-off", quantity: "percent" },
  { key: "charge_to_pct", label: "Charge at landing", quantity: "percent" },
  { key: "wind_predicted_ms", label: "Wind predicted", quantity: "speed" },
  { key: "wind_met_ms", label: "Wind met", quantity: "speed" },
  { key: "distance_m", label: "Farthest", quantity: "length" },
  { key: "height_m", label: "Highest", quantity: "length" },
  { key: "latitude", label: "Latitude", quantity: "angle" },
  { key: "longitude", label: "Longitude", quantity: "angle" },
];

/** Enter or correct a flight; what it comes to is worked out while it is typed. */
export function EntryDialog({
  title,
  entry,
  problem,
  onClose,
  save,
}: {
  title: string;
  entry: FlightEntry;
  problem: Problem | null;
  onClose: () => void;
  save: (entry: FlightEntry) => void;
}) {
  const units = useUnits();
  const [now, setNow] = useState(entry);
  const [typed, setTyped] = useState<Partial<Record<NumberKey, string>>>({});
  const [fault, setFault] = useState<string | null>(null);
  const put = (change: Partial<FlightEntry>) => setNow({ ...now, ...change });
  const { latitude, longitude } = now;
  const wall = useWall(latitude === null || longitude === null ? null : { latitude, longitude });
  const text = (key: NumberKey, quantity: Quantity, per = 1) => {
    if (typed[key] !== undefined) return typed[key];
    const value = now[key];
    return value == null ? "" : String(Number(shown(value / per, quantity, units).toFixed(6)));
  };
  const number = (key: NumberKey, quantity: Quantity, written: string, per = 1) => {
    setTyped({ ...typed, [key]: written });
    const value = Number(written.trim().replace(",", ".").replace("−", "-"));
    if (written.trim() === "") put({ [key]: null });
    else if (Number.isFinite(value)) put({ [key]: meant(value, quantity, units) * per });
  };
  const wrong = Object.entries(typed).find(
    ([, t]) =>
      t.trim() !== "" && !Number.isFinite(Number(t.trim().replace(",", ".").replace("−", "-"))),
  );
  const points = spent(now);
  const perMinute = points !== null && now.seconds ? (60 * points) / now.seconds : null;
  const submit = () => {
    if (!now.aircraft.trim()) return setFault("Name the aircraft.");
    if (wrong) return setFault("One of these isn’t a number. Check the fields.");
    if (points !== null && points < 0)
      return setFault("Charge at landing can’t be higher than at take-off.");
    setFault(null);
    save(now);
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{title}</DialogTitle>
      <DialogContent>
        {problem && <ProblemNote problem={problem} />}
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.25, pt: 1 }}>
          <TextField
            label="Take-off"
            type="datetime-local"
            value={wall.time(now.started_at).local}
            helperText={wall.zone ? `By the clock in ${wall.zone}.` : undefined}
            onChange={(e) => {
              const local = e.target.value;
              if (local.length === 16)
                put({ started_at: isoOf({ local, offset: wall.offset(local) }) });
            }}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <TextField
            label="Place"
            value={now.place}
            onChange={(e) => put({ place: e.target.value })}
          />
          <TextField
            label="Aircraft"
            required
            value={now.aircraft}
            onChange={(e) => put({ aircraft: e.target.value })}
          />
          <TextField
            label="Battery"
            value={now.pack}
            onChange={(e) => put({ pack: e.target.value })}
          />
          {NUMBERS.map(({ key, label, quantity, per }) => (
            <TextField
              key={key}
              label={`${label}, ${unitName(quantity, units)}`}
              value={text(key, quantity, per)}
              onChange={(e) => number(key, quantity, e.target.value, per)}
              slotProps={{ htmlInput: { inputMode: "decimal" } }}
            />
          ))}
          <Box sx={{ gridColumn: "1 / -1" }}>
            <FormControlLabel
              control={
                <Checkbox
                  checked={now.manual_return}
                  onChange={(_, is) => put({ manual_return: is })}
                />
              }
              label="Flown home manually"
            />
            <FormControlLabel
              control={<Checkbox checked={now.wet} onChange={(_, is) => put({ wet: is })} />}
              label="It got wet"
            />
          </Box>
          <TextField
            label="Note"
            multiline
            minRows={2}
            sx={{ gridColumn: "1 / -1" }}
            value={now.note}
            onChange={(e) => put({ note: e.target.value.slice(0, 2000) })}
          />
        </Box>
        <Typography role="status" sx={{ mt: 1 }}>
          {perMinute !== null && perMinute > 0
            ? `${hours(now.seconds!)}, ${perMinute.toFixed(1)}% of charge a minute: from ${Math.round(now.charge_from_pct!)} to 30% it would last ${hours(Math.max(0, (60 * (now.charge_from_pct! - 30)) / perMinute))}.`
            : "Enter flight time and charge to see how long the battery would last."}
        </Typography>
        {fault && (
          <Typography role="alert" color="error">
            {fault}
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave</Button>
        <Button variant="contained" onClick={submit}>
          Keep it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
