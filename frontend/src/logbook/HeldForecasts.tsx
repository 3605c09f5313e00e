import Box from "@mui/material/Box";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { useHeldOfFlight, useHeldOverLogbook } from "../api/forecasts";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { written } from "../units/units";

/** Nearer than this a forecast was right, as far as a wind is ever met [m/s]. */
const RIGHT_MS = 0.5;

function useOff() {
  const units = useUnits();
  return (ms: number) =>
    Math.abs(ms) < RIGHT_MS
      ? "about right"
      : `${written(Math.abs(ms), "speed", units)} too ${ms > 0 ? "much" : "little"}`;
}

function Rows({ label, head, rows }: { label: string; head: string[]; rows: string[][] }) {
  return (
    <Box
      sx={{ overflowX: "auto" }}
      tabIndex={0}
      role="group"
      aria-label={`${label}, scrolls sideways`}
    >
      <Table size="small" aria-label={label}>
        <TableHead>
          <TableRow>
            {head.map((word) => (
              <TableCell key={word}>{word}</TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <TableRow key={row.join()}>
              {row.map((word, n) => (
                <TableCell key={head[n]}>{word}</TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}

/** What the forecasts said before a flight, against the wind that it met. */
export function HeldForecasts({ uid }: { uid: string }) {
  const units = useUnits();
  const off = useOff();
  const { data } = useHeldOfFlight(uid);
  if (!data || data.met_ms == null || data.held.length === 0) return null;
  return (
    <Panel title="Forecasts" hint="held against the wind met">
      <Typography variant="body2" sx={{ mb: 0.5 }}>
        Met: {written(data.met_ms, "speed", units)} at the flight’s height.
      </Typography>
      <Rows
        label="Forecasts before the flight"
        head={["Forecast", "Before", "Said", "Off"]}
        rows={data.held.map((h) => [
          h.source,
          `${h.lead_h} h`,
          written(h.speed_ms, "speed", units),
          off(h.off_ms),
        ])}
      />
    </Panel>
  );
}

/** How far each source is off at each place; nothing while too few flights say so. */
export function HeldOverLogbook() {
  const units = useUnits();
  const off = useOff();
  const { data } = useHeldOverLogbook();
  if (!data || data.length === 0) return null;
  return (
    <Panel title="Forecasts" hint="held against the winds met">
      <Rows
        label="Forecasts over the logbook"
        head={["Forecast", "On average", "Either way", "Flights"]}
        rows={data.map((h) => [
          `${h.source}, ${h.lead_h} h before, ${h.place}`,
          off(h.off_ms),
          written(h.size_ms, "speed", units),
          String(h.count),
        ])}
      />
      <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
        Wind that was said less wind that was met. From five flights at a place on, Learning offers
        to add what one says too little. Nothing is ever taken off a forecast.
      </Typography>
    </Panel>
  );
}
