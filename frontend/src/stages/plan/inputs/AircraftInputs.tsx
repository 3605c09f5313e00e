import AddIcon from "@mui/icons-material/Add";
import DeleteIcon from "@mui/icons-material/DeleteOutlined";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Typography from "@mui/material/Typography";
import type { Plan } from "../../../api/client";
import { Choice, Group, Toggle, Words } from "../../../inputs/fields";
import { OptionalQuantityInput, QuantityInput } from "../../../inputs/QuantityInput";
import type { Change } from "../../../editing/change";
import { FromKit } from "./FromKit";
import { howKnown } from "../evidence";
import { ATTACHMENTS } from "../names";
import type { InputProps } from "./props";

export function AircraftInputs({ plan, change }: InputProps) {
  const { aircraft, pack } = plan;
  const set =
    <K extends keyof Plan["aircraft"]>(key: K) =>
    (v: Plan["aircraft"][K]) =>
      change(["aircraft", key], v);
  const pct = `${Math.round(pack.charge_pct)}%`;
  return (
    <Group
      title="Aircraft and battery"
      summary={`${aircraft.name}, ${pack.label ? `battery ${pack.label} ` : "battery "}${pct}`}
    >
      <FromKit plan={plan} change={change} />
      <Words
        label="Battery"
        value={pack.label ?? ""}
        max={60}
        onChange={(v) => change(["pack", "label"], v || null)}
      />
      <QuantityInput
        label="Charge"
        hint={howKnown(plan, "pack.charge_pct")}
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
        label="Battery temperature"
        hint={pack.temperature_c == null ? undefined : howKnown(plan, "pack.temperature_c")}
        quantity="temperature"
        value={pack.temperature_c}
        first={20}
        min={-20}
        max={45}
        least={-60}
        most={60}
        unknown="same as air"
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
          label={n.label}
          quantity={n.quantity}
          value={n.of(plan)}
          max={n.most}
          min={n.least}
          onChange={(v) => n.put(change, v)}
        />
      ))}
      <OptionalQuantityInput
        label="Greatest take-off weight"
        unknown="not given"
        slider={false}
        quantity="grams"
        value={aircraft.max_takeoff_g}
        first={Math.round(aircraft.mass_g * 1.2)}
        min={10}
        max={50_000}
        onChange={set("max_takeoff_g")}
      />
      <OptionalQuantityInput
        label="Service ceiling (sea level)"
        unknown="not given"
        slider={false}
        quantity="length"
        value={aircraft.ceiling_m}
        first={4000}
        min={100}
        max={12_000}
        onChange={set("ceiling_m")}
      />
      <Toggle
        label="Less radio power here (−7 dB)"
        value={aircraft.region_power_db < 0}
        onChange={(less) => set("region_power_db")(less ? -7 : 0)}
      />
      <Attached attachments={aircraft.attachments} put={set("attachments")} />
    </Group>
  );
}

const NUMBERS = [
  {
    label: "Weight",
    put: (change: Change<Plan>, v: number) => change(["aircraft", "mass_g"], v),
    of: (p: Plan) => p.aircraft.mass_g,
    quantity: "grams",
    least: 10,
    most: 25_000,
  },
  {
    label: "Payload",
    put: (change: Change<Plan>, v: number) => change(["aircraft", "payload_g"], v),
    of: (p: Plan) => p.aircraft.payload_g,
    quantity: "grams",
    least: 0,
    most: 10_000,
  },
  {
    label: "Hover time",
    put: (change: Change<Plan>, v: number) => change(["aircraft", "hover_time_min"], v),
    of: (p: Plan) => p.aircraft.hover_time_min,
    quantity: "minutes",
    least: 1,
    most: 240,
  },
  {
    label: "Wind rating",
    put: (change: Change<Plan>, v: number) => change(["aircraft", "max_wind_ms"], v),
    of: (p: Plan) => p.aircraft.max_wind_ms,
    quantity: "speed",
    least: 0.1,
    most: 40,
  },
  {
    label: "Slow mode",
    put: (change: Change<Plan>, v: number) => change(["aircraft", "speeds_ms", "slow"], v),
    of: (p: Plan) => p.aircraft.speeds_ms.slow,
    quantity: "speed",
    least: 1,
    most: 60,
  },
  {
    label: "Normal mode",
    put: (change: Change<Plan>, v: number) => change(["aircraft", "speeds_ms", "normal"], v),
    of: (p: Plan) => p.aircraft.speeds_ms.normal,
    quantity: "speed",
    least: 1,
    most: 60,
  },
  {
    label: "Fast mode",
    put: (change: Change<Plan>, v: number) => change(["aircraft", "speeds_ms", "fast"], v),
    of: (p: Plan) => p.aircraft.speeds_ms.fast,
    quantity: "speed",
    least: 1,
    most: 60,
  },
  {
    label: "Return to home",
    put: (change: Change<Plan>, v: number) => change(["aircraft", "rth_speed_ms"], v),
    of: (p: Plan) => p.aircraft.rth_speed_ms,
    quantity: "speed",
    least: 1,
    most: 60,
  },
  {
    label: "Open radio range",
    put: (change: Change<Plan>, v: number) => change(["aircraft", "link", "range_m"], v),
    of: (p: Plan) => p.aircraft.link.range_m,
    quantity: "length",
    least: 10,
    most: 100_000,
  },
] as const;

type Attachment = Plan["aircraft"]["attachments"][number];

/** What is added to the aircraft: it weighs, and guards and floats cost wind, speed and power too. */
function Attached({
  attachments,
  put,
}: {
  attachments: Attachment[];
  put: (attachments: Attachment[]) => void;
}) {
  const change = (i: number, to: Partial<Attachment>) =>
    put(attachments.map((a, at) => (at === i ? { ...a, ...to } : a)));
  return (
    <Box role="group" aria-label="What is attached" sx={{ mt: 1 }}>
      {attachments.map((a, i) => (
        <Box key={i} sx={{ display: "flex", flexWrap: "wrap", columnGap: 1, alignItems: "center" }}>
          <Choice
            label="Attached"
            value={a.kind}
            options={ATTACHMENTS}
            onChange={(kind) => change(i, { kind })}
          />
          <Box sx={{ flex: 1, minWidth: 150 }}>
            <QuantityInput
              label="Its weight"
              quantity="grams"
              slider={false}
              value={a.mass_g}
              min={0}
              max={5000}
              onChange={(mass_g) => change(i, { mass_g })}
            />
          </Box>
          <IconButton
            aria-label={`Take off ${ATTACHMENTS[a.kind]}`}
            onClick={() => put(attachments.filter((_, at) => at !== i))}
          >
            <DeleteIcon />
          </IconButton>
        </Box>
      ))}
      {attachments.some((a) => a.kind === "guards" || a.kind === "floats") && (
        <Typography variant="body2" color="text.secondary">
          Guards and floats: 0.8 of the rated wind and of the fast mode, 1.15 of the power. Assumed;
          no published number.
        </Typography>
      )}
      <Button
        startIcon={<AddIcon />}
        onClick={() => put([...attachments, { kind: "guards", mass_g: 30 }])}
      >
        Attach something
      </Button>
    </Box>
  );
}
