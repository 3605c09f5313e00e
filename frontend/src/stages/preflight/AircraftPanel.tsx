import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { AircraftHeard, Dial, Plan } from "../../api/client";
import { useBehaviour, useDevices } from "../../api/site";
import { setAt, type Path } from "../../editing/history";
import { useUnits } from "../../shell/preferences";
import { written, type Quantity } from "../../units/units";

type Says = AircraftHeard["says"];

/** What an aircraft can say, and where it belongs in the plan. */
const LINES: { key: keyof Says; label: string; quantity: Quantity | null; path: Path | null }[] = [
  { key: "satellites", label: "Satellites", quantity: "count", path: ["settings", "satellites"] },
  {
    key: "home_point_set",
    label: "Home point",
    quantity: null,
    path: ["settings", "home_point_set"],
  },
  {
    key: "compass_checked",
    label: "Compass",
    quantity: null,
    path: ["settings", "compass_checked"],
  },
  { key: "charge_pct", label: "Charge", quantity: "percent", path: ["pack", "charge_pct"] },
  {
    key: "pack_temperature_c",
    label: "Battery temperature",
    quantity: "temperature",
    path: ["pack", "temperature_c"],
  },
  {
    key: "rth_altitude_m",
    label: "Return height",
    quantity: "length",
    path: ["settings", "rth_altitude_m"],
  },
  { key: "tilt_deg", label: "Lean", quantity: "angle", path: null },
];

function at(plan: Plan, path: Path): unknown {
  let node: unknown = plan;
  for (const step of path) node = (node as Record<string | number, unknown>)[step];
  return node;
}

function same(a: unknown, b: unknown): boolean {
  return typeof a === "number" && typeof b === "number" ? Math.abs(a - b) < 0.5 : a === b;
}

/** What the aircraft says by itself: read, not typed. Lark listens and never sends it anything. */
export function AircraftPanel({
  plan,
  card,
  put,
}: {
  plan: Plan;
  card: Dial[];
  put: (plan: Plan) => void;
}) {
  const units = useUnits();
  const devices = useDevices();
  const behaviour = useBehaviour();
  if (devices.error)
    return <Typography>Server unavailable: nothing is read from the aircraft.</Typography>;
  const aircraft = devices.data?.aircraft;
  if (!aircraft)
    return (
      <Typography color="text.secondary">
        Not connected. Lark can listen to an aircraft that sends MAVLink to this computer: see lark
        serve --help.
      </Typography>
    );
  const { says, heard } = aircraft;
  const differing = LINES.filter(
    ({ key, path }) => path && says[key] !== null && !same(says[key], at(plan, path)),
  );
  const wanted = card.find((d) => d.setting === "rth_altitude_m")?.value;
  const low =
    says.rth_altitude_m != null && wanted != null && says.rth_altitude_m < wanted - 0.5
      ? { set: says.rth_altitude_m, wanted }
      : null;
  const word = (key: keyof Says, quantity: Quantity | null) => {
    const value = says[key];
    if (value === null) return "—";
    if (typeof value === "boolean") return value ? "in order" : "not in order";
    return written(value, quantity!, units);
  };
  return (
    <>
      {heard.silent ? (
        <Alert severity="warning" icon={false} sx={{ border: 1 }} role="status">
          {heard.since_s === null
            ? "Nothing is heard from the aircraft."
            : `Silent for ${Math.round(heard.since_s)} s. Old values are hidden.`}
        </Alert>
      ) : (
        <Box component="dl" aria-label="Read from the aircraft" sx={{ m: 0 }}>
          {LINES.map(({ key, label, quantity, path }) => (
            <Box key={key} sx={{ display: "flex", gap: 1, py: 0.25, alignItems: "baseline" }}>
              <Typography component="dt" sx={{ flex: 1 }}>
                {label}
              </Typography>
              <Typography component="dd" sx={{ m: 0, fontWeight: 750 }}>
                {word(key, quantity)}
              </Typography>
              <Typography
                component="dd"
                variant="body2"
                color="text.secondary"
                sx={{ m: 0, minWidth: 90 }}
              >
                {says[key] === null
                  ? ""
                  : path && !same(says[key], at(plan, path))
                    ? "plan differs"
                    : "read"}
              </Typography>
            </Box>
          ))}
        </Box>
      )}
      {low && (
        <Alert severity="error" icon={false} sx={{ border: 1, my: 0.5 }}>
          Return height is set to {written(low.set, "length", units)} on the aircraft, this place
          wants {written(low.wanted, "length", units)}.
        </Alert>
      )}
      {says.compass_checked === false && (
        <Alert severity="error" icon={false} sx={{ border: 1, my: 0.5 }}>
          Compass error: move away from metal, then calibrate.
        </Alert>
      )}
      <Button
        variant={differing.length > 0 ? "contained" : "outlined"}
        fullWidth
        sx={{ minHeight: 52, mt: 1 }}
        disabled={differing.length === 0}
        onClick={() =>
          put(differing.reduce((next, { key, path }) => setAt(next, path!, says[key]), plan))
        }
      >
        {differing.length > 0
          ? `Use the aircraft’s values (${differing.length})`
          : heard.silent
            ? "Nothing to take in"
            : "The plan has what it says"}
      </Button>
      {heard.dropped > 0 && (
        <Typography variant="body2" color="text.secondary">
          {heard.dropped} broken packets were dropped.
        </Typography>
      )}
      {aircraft.behaviour !== null && (
        <TextField
          select
          fullWidth
          size="small"
          margin="dense"
          label="The simulated aircraft behaves"
          value={aircraft.behaviour}
          onChange={(e) => behaviour.mutate(e.target.value)}
        >
          {aircraft.behaviours.map((way) => (
            <MenuItem key={way.value} value={way.value}>
              {way.label}
            </MenuItem>
          ))}
        </TextField>
      )}
    </>
  );
}
