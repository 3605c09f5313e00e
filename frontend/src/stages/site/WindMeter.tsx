import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Plan } from "../../api/client";
import { useDevices } from "../../api/site";
import { useUnits } from "../../shell/preferences";
import { bearing, written } from "../../units/units";

type Wind = Plan["weather"]["winds"][number];

/** At which height a meter is held [m]. */
const HAND_M = 2;

/** The wind meter that is connected: the mean of the last half minute, taken in as a measured wind. */
export function WindMeter({ plan, add }: { plan: Plan; add: (winds: Wind[]) => void }) {
  const units = useUnits();
  const devices = useDevices();
  const meter = devices.error ? null : devices.data?.wind_meter;
  if (!meter) return null;
  const { reading, heard } = meter;
  const takeIn = () => {
    if (!reading) return;
    const speed_ms = Math.round(reading.speed_ms * 10) / 10;
    const found: Wind = {
      height_m: HAND_M,
      speed_ms,
      direction_deg: Math.round(reading.direction_deg) % 360,
      gust_ms: Math.max(speed_ms, Math.round(reading.gust_ms * 10) / 10),
      source: "measured",
      method: "meter",
      at: new Date().toISOString(),
    };
    // A new reading by meter takes the place of the last one.
    add([...plan.weather.winds.filter((w) => w.method !== "meter"), found]);
  };
  return (
    <Box sx={{ border: 1, borderColor: "divider", borderRadius: "12px", p: 1.25, mb: 1 }}>
      <Typography sx={{ fontWeight: 700 }}>Wind meter</Typography>
      {reading ? (
        <>
          <Typography sx={{ fontSize: "1.5rem", fontWeight: 750, lineHeight: 1.2 }}>
            {written(reading.speed_ms, "speed", units)} from {bearing(reading.direction_deg)}
          </Typography>
          <Typography variant="body2" color="text.secondary">
            up to {written(reading.gust_ms, "speed", units)}, of {reading.samples} readings in the
            last half minute
          </Typography>
          <Button variant="contained" sx={{ minHeight: 52, mt: 0.5 }} onClick={takeIn}>
            Use this wind at {written(HAND_M, "length", units)}
          </Button>
        </>
      ) : (
        <Typography role="status">
          {heard.since_s === null
            ? "No data from the meter yet."
            : `Silent for ${Math.round(heard.since_s)} s.`}
        </Typography>
      )}
    </Box>
  );
}
