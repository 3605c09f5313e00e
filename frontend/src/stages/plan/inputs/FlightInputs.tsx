import TextField from "@mui/material/TextField";
import type { Plan } from "../../../api/client";
import { useUnits } from "../../../shell/preferences";
import { useTimeZone } from "../../../api/timeZone";
import { isoOf, offsetIn, wallIn, wallTime } from "../../../shell/time";
import { Choice, Group, Toggle } from "../../../inputs/fields";
import { OptionalQuantityInput, QuantityInput } from "../../../inputs/QuantityInput";
import { bearing, written } from "../../../units/units";
import { LOST_LINK, MODES } from "../names";
import type { InputProps } from "./props";

export function FlightInputs({ plan, result, change }: InputProps) {
  const units = useUnits();
  const { flight } = plan;
  const set =
    <K extends keyof Plan["flight"]>(key: K) =>
    (v: Plan["flight"][K]) =>
      change(["flight", key], v);
  const summary = `${written(flight.distance_m, "length", units)} towards ${bearing(flight.bearing_deg)}`;
  const off = result?.checks.find((c) => c.id === "wind.first_leg")?.value;
  const way =
    off == null ? undefined : off <= 60 ? "into the wind" : off <= 120 ? "across" : "with the wind";
  return (
    <Group title="Flight" summary={summary} open>
      <QuantityInput
        label="Bearing out"
        hint={way}
        quantity="angle"
        value={flight.bearing_deg}
        min={0}
        max={360}
        step={5}
        onChange={set("bearing_deg")}
      />
      <QuantityInput
        label="Distance"
        quantity="length"
        value={flight.distance_m}
        min={0}
        max={1000}
        most={20_000}
        step={5}
        onChange={set("distance_m")}
      />
      <QuantityInput
        label="Height"
        quantity="length"
        value={flight.height_m}
        min={0}
        max={150}
        most={1000}
        onChange={set("height_m")}
      />
      <QuantityInput
        label="Filming"
        quantity="minutes"
        value={flight.station_min}
        min={0}
        max={30}
        most={240}
        step={0.5}
        digits={Number.isInteger(flight.station_min) ? 0 : 1}
        onChange={set("station_min")}
      />
      <QuantityInput
        label="Room flown over at the far point"
        quantity="length"
        value={flight.station_radius_m}
        min={0}
        max={200}
        most={1000}
        onChange={set("station_radius_m")}
      />
      <Choice
        label="Outbound mode"
        value={flight.outbound_mode}
        options={{ slow: MODES.slow, normal: MODES.normal, fast: MODES.fast }}
        onChange={set("outbound_mode")}
      />
      <Choice
        label="Return"
        value={flight.return_mode}
        options={MODES}
        onChange={set("return_mode")}
      />
      <Toggle
        label="I have the permission that night takes"
        value={flight.night_permitted}
        onChange={set("night_permitted")}
      />
    </Group>
  );
}

export function ControllerInputs({ plan, result, change }: InputProps) {
  const units = useUnits();
  const { settings } = plan;
  const best = result?.rth.recommended_m;
  const set =
    <K extends keyof Plan["settings"]>(key: K) =>
    (v: Plan["settings"][K]) =>
      change(["settings", key], v);
  return (
    <Group
      title="Controller settings"
      summary={`return height ${written(settings.rth_altitude_m, "length", units)}`}
      open
    >
      <QuantityInput
        label="Return height"
        hint={best == null ? "no height works" : `recommended ${written(best, "length", units)}`}
        quantity="length"
        value={settings.rth_altitude_m}
        min={0}
        max={150}
        most={1000}
        step={5}
        onChange={set("rth_altitude_m")}
      />
      <QuantityInput
        label="Height limit"
        quantity="length"
        value={settings.max_altitude_m}
        min={0}
        max={150}
        most={1000}
        step={5}
        slider={false}
        onChange={set("max_altitude_m")}
      />
      <OptionalQuantityInput
        label="Distance limit"
        quantity="length"
        value={settings.max_distance_m}
        first={Math.max(50, Math.ceil((plan.flight.distance_m * 1.1) / 10) * 10)}
        min={0}
        max={1000}
        most={20_000}
        slider={false}
        unknown="none set"
        onChange={set("max_distance_m")}
      />
      <Choice
        label="Lost-link action"
        value={settings.lost_link}
        options={LOST_LINK}
        onChange={set("lost_link")}
      />
    </Group>
  );
}

/** The lift-off by the clock at the place, whatever clock it was written by. */
export function LiftOff({ plan, change }: Pick<InputProps, "plan" | "change">) {
  const zone = useTimeZone(plan.site);
  const wall = zone ? wallIn(zone, plan.takeoff_at) : wallTime(plan.takeoff_at);
  const offset = wall.offset === "Z" || wall.offset === "+00:00" ? "" : wall.offset;
  return (
    <TextField
      type="datetime-local"
      label={`Take-off (UTC${offset})`}
      fullWidth
      size="small"
      margin="dense"
      value={wall.local}
      helperText={zone ? `By the clock in ${zone}.` : undefined}
      slotProps={{ inputLabel: { shrink: true } }}
      onChange={(e) => {
        // Half-typed dates come as an empty value; the last whole one stays.
        const local = e.target.value;
        if (local.length !== 16) return;
        change(
          ["takeoff_at"],
          isoOf({ local, offset: zone ? offsetIn(zone, local) : wall.offset }),
        );
      }}
    />
  );
}
