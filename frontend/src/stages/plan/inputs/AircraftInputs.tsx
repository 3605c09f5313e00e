import Typography from "@mui/material/Typography";
import type { Plan } from "../../../api/client";
import { Group, Words } from "../../../inputs/fields";
import { OptionalQuantityInput, QuantityInput } from "../../../inputs/QuantityInput";
import type { Path } from "../../../editing/history";
import { FromKit } from "./FromKit";
import type { InputProps } from "./props";

export function AircraftInputs({ plan, change }: InputProps) {
  const { aircraft, pack } = plan;
  const set =
    (...path: Path) =>
    (v: unknown) =>
      change(["aircraft", ...path], v);
  const pct = `${Math.round(pack.charge_pct)} %`;
  return (
    <Group
      title="Aircraft and pack"
      summary={`${aircraft.name}, ${pack.label ? `pack ${pack.label} ` : "pack "}${pct}`}
    >
      <FromKit plan={plan} change={change} />
      <Words
        label="Pack"
        value={pack.label ?? ""}
        max={60}
        onChange={(v) => change(["pack", "label"], v || null)}
      />
      <QuantityInput
        label="Charge"
        quantity="percent"
        value={pack.charge_pct}
        min={0}
        max={100}
        onChange={(v) => change(["pack", "charge_pct"], v)}
      />
      <QuantityInput
        label="Health"
        quantity="percent"
        value={pack.health_pct}
        min={50}
        max={100}
        least={1}
        most={110}
        onChange={(v) => change(["pack", "health_pct"], v)}
      />
      <OptionalQuantityInput
        label="Pack temperature"
        quantity="temperature"
        value={pack.temperature_c}
        first={20}
        min={-20}
        max={45}
        least={-60}
        most={60}
        unknown="taken as the air's"
        onChange={(v) => change(["pack", "temperature_c"], v)}
      />
      <Typography component="h3" sx={{ fontWeight: 700, mt: 2 }}>
        From the aircraft’s manual
      </Typography>
      <Words
        label="Aircraft"
        value={aircraft.name}
        required="Give the aircraft a name."
        onChange={set("name")}
      />
      {NUMBERS.map((n) => (
        <QuantityInput
          key={n.label}
          slider={false}
          {...n}
          value={n.of(plan)}
          max={n.most}
          min={n.least}
          onChange={set(...n.path)}
        />
      ))}
    </Group>
  );
}

const NUMBERS = [
  {
    label: "Mass",
    path: ["mass_g"],
    of: (p: Plan) => p.aircraft.mass_g,
    quantity: "grams",
    least: 10,
    most: 25_000,
  },
  {
    label: "Payload",
    path: ["payload_g"],
    of: (p: Plan) => p.aircraft.payload_g,
    quantity: "grams",
    least: 0,
    most: 10_000,
  },
  {
    label: "Hover time",
    path: ["hover_time_min"],
    of: (p: Plan) => p.aircraft.hover_time_min,
    quantity: "minutes",
    least: 1,
    most: 240,
  },
  {
    label: "Rated wind",
    path: ["max_wind_ms"],
    of: (p: Plan) => p.aircraft.max_wind_ms,
    quantity: "speed",
    least: 0.1,
    most: 40,
  },
  {
    label: "Slow mode",
    path: ["speeds_ms", "cine"],
    of: (p: Plan) => p.aircraft.speeds_ms.cine,
    quantity: "speed",
    least: 0.1,
    most: 60,
  },
  {
    label: "Usual mode",
    path: ["speeds_ms", "normal"],
    of: (p: Plan) => p.aircraft.speeds_ms.normal,
    quantity: "speed",
    least: 0.1,
    most: 60,
  },
  {
    label: "Fast mode",
    path: ["speeds_ms", "sport"],
    of: (p: Plan) => p.aircraft.speeds_ms.sport,
    quantity: "speed",
    least: 0.1,
    most: 60,
  },
  {
    label: "Automatic return",
    path: ["rth_speed_ms"],
    of: (p: Plan) => p.aircraft.rth_speed_ms,
    quantity: "speed",
    least: 0.1,
    most: 60,
  },
  {
    label: "Open radio range",
    path: ["link", "range_m"],
    of: (p: Plan) => p.aircraft.link.range_m,
    quantity: "length",
    least: 10,
    most: 100_000,
  },
] as const;
