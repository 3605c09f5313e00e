import Typography from "@mui/material/Typography";
import { LOW_PCT, useOwnBattery } from "../../sensors/useOwnBattery";

/** What this device says of its own battery, beside the item that asks for it; the pilot ticks. */
export function OwnBattery() {
  const battery = useOwnBattery();
  if (!battery) return null;
  const charge = Math.round(battery.charge_pct);
  const low = charge < LOW_PCT && !battery.charging;
  return (
    <Typography
      variant="body2"
      role="status"
      aria-label="This device’s battery"
      color={low ? "error" : "text.secondary"}
      sx={{ fontWeight: low ? 700 : undefined }}
    >
      This device: {charge}%{battery.charging ? ", charging" : ""}.
      {low && ` Under ${LOW_PCT}%: charge it, or take another. The flight clock runs on it.`}
    </Typography>
  );
}
