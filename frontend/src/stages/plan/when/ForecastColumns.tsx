import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { ForecastHead } from "../../../api/client";
import { QuantityInput } from "../../../inputs/QuantityInput";

/** What a column may be, in words; the unit is that of the file, whatever the pilot reads. */
const KINDS: Record<string, string> = {
  time: "Time with its UTC offset",
  time_utc: "Time in UTC",
  height_m: "Height of the wind, m",
  height_ft: "Height of the wind, ft",
  speed_ms: "Wind, m/s",
  speed_kmh: "Wind, km/h",
  speed_kn: "Wind, knots",
  speed_mph: "Wind, mph",
  gust_ms: "Gusts, m/s",
  gust_kmh: "Gusts, km/h",
  gust_kn: "Gusts, knots",
  gust_mph: "Gusts, mph",
  direction_deg: "Wind from, °",
  temperature_c: "Air temperature, °C",
  temperature_f: "Air temperature, °F",
  dew_point_c: "Dew point, °C",
  dew_point_f: "Dew point, °F",
  cloud_pct: "Cloud, %",
  rain_mmh: "Rain, mm an hour",
  visibility_m: "Visibility, m",
  visibility_ft: "Visibility, ft",
  visibility_km: "Visibility, km",
  kp: "Kp index",
};

export interface Chosen {
  columns: Record<string, string>;
  height_m: number | null;
}

const starts = (chosen: Chosen, what: string) =>
  Object.values(chosen.columns).some((kind) => kind.startsWith(what));

/** What is still missing before a table can be read; null: nothing. */
export function missing(chosen: Chosen): string | null {
  const kinds = Object.values(chosen.columns);
  const twice = kinds.find((kind, i) => kinds.indexOf(kind) !== i);
  if (twice) return `Two columns are “${KINDS[twice] ?? twice}”. Choose one.`;
  if (!starts(chosen, "time")) return "Choose the column of the times.";
  if (!starts(chosen, "speed_")) return "Choose the column of the wind.";
  if (!starts(chosen, "direction_")) return "Choose the column of the direction.";
  return null;
}

/** Which column of a forecast’s table is which, and at what height its winds blow. */
export function ForecastColumns({
  head,
  chosen,
  choose,
}: {
  head: ForecastHead;
  chosen: Chosen;
  choose: (chosen: Chosen) => void;
}) {
  const open = missing(chosen);
  const put = (column: string, kind: string) => {
    const others = Object.fromEntries(
      Object.entries(chosen.columns).filter(([key]) => key !== column),
    );
    choose({ ...chosen, columns: kind ? { ...others, [column]: kind } : others });
  };
  return (
    <Box component="section" aria-label="Which column is which" sx={{ mt: 1 }}>
      <Typography sx={{ mb: 1 }}>Which column is which?</Typography>
      <Box
        sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", sm: "1fr 1fr" }, columnGap: 1 }}
      >
        {head.columns.map((column, at) => (
          <TextField
            key={column}
            select
            fullWidth
            size="small"
            margin="dense"
            label={column || `Column ${at + 1}`}
            helperText={`first: ${head.rows[0]?.[at] ?? "nothing"}`}
            value={chosen.columns[column] ?? ""}
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            onChange={(e) => put(column, e.target.value)}
          >
            <MenuItem value="">Not used</MenuItem>
            {head.kinds.map((kind) => (
              <MenuItem key={kind} value={kind}>
                {KINDS[kind] ?? kind}
              </MenuItem>
            ))}
          </TextField>
        ))}
      </Box>
      {!starts(chosen, "height_") && (
        <QuantityInput
          label="Height of its winds"
          hint="most forecasts give the wind at 10 m"
          quantity="length"
          value={chosen.height_m ?? 10}
          min={1}
          max={1000}
          slider={false}
          onChange={(height_m) => choose({ ...chosen, height_m })}
        />
      )}
      {open && (
        <Typography variant="body2" role="status">
          {open}
        </Typography>
      )}
    </Box>
  );
}
