import DeleteIcon from "@mui/icons-material/DeleteOutlined";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Typography from "@mui/material/Typography";
import type { Plan } from "../../../api/client";
import { useUnits } from "../../../shell/preferences";
import { since } from "../../../shell/time";
import { useNow } from "../../../shell/useNow";
import { Choice, Group } from "../../../inputs/fields";
import { OptionalQuantityInput, QuantityInput } from "../../../inputs/QuantityInput";
import { WindDial } from "../../../inputs/WindDial";
import { bearing, written, type Units } from "../../../units/units";
import { byHand, howKnown } from "../evidence";
import { PRECIPITATION, SOURCES } from "../names";
import type { InputProps } from "./props";
import { ReadingMenu, type Wind } from "./ReadingMenu";

function windLine(wind: Wind, units: Units): string {
  return `${written(wind.speed_ms, "speed", units)} from ${bearing(wind.direction_deg)}`;
}

export function AirInputs({ plan, result, change, back }: InputProps & { back: () => void }) {
  const units = useUnits();
  const { winds } = plan.weather;
  const own = byHand(plan);
  const aloft = result?.wind?.return;
  return (
    <Group title="Weather" summary={windLine(winds[0]!, units)} open>
      {winds.map((wind, i) => (
        <WindLevel
          key={i}
          wind={wind}
          known={howKnown(plan, `weather.winds.${i}`)}
          several={winds.length > 1}
          change={(key, value) => change(["weather", "winds", i, key], value)}
          remove={() =>
            change(
              ["weather", "winds"],
              winds.filter((_, at) => at !== i),
            )
          }
        />
      ))}
      <Box sx={{ display: "flex", alignItems: "center", gap: 2, py: 1 }}>
        <WindDial from={aloft?.direction_deg ?? null} out={plan.flight.bearing_deg} />
        <Typography variant="body2">
          {aloft ? (
            <>
              At {written(aloft.height_m, "length", units)}:{" "}
              <b>{written(aloft.speed_ms, "speed", units)}</b> from {bearing(aloft.direction_deg)},
              gusts <b>{written(aloft.gust_ms, "speed", units)}</b>
            </>
          ) : (
            "Wind aloft unknown, or not needed here."
          )}
        </Typography>
      </Box>
      <ReadingMenu plan={plan} add={(wind) => change(["weather", "winds"], [...winds, wind])} />
      <QuantityInput
        label="Air temperature"
        hint={howKnown(plan, "weather.temperature_c")}
        quantity="temperature"
        value={plan.weather.temperature_c}
        min={-20}
        max={40}
        least={-60}
        most={60}
        onChange={(v) => change(["weather", "temperature_c"], v)}
      />
      <OptionalQuantityInput
        label="Dew point"
        hint={howKnown(plan, "weather.dew_point_c")}
        quantity="temperature"
        value={plan.weather.dew_point_c}
        first={plan.weather.temperature_c}
        min={-25}
        max={30}
        least={-60}
        most={60}
        onChange={(v) => change(["weather", "dew_point_c"], v)}
      />
      <QuantityInput
        label="Visibility"
        hint={howKnown(plan, "weather.visibility_m")}
        quantity="length"
        value={plan.weather.visibility_m}
        min={0}
        max={20_000}
        most={200_000}
        step={100}
        onChange={(v) => change(["weather", "visibility_m"], v)}
      />
      <Choice
        label="Rain, snow, fog"
        value={plan.weather.precipitation}
        options={PRECIPITATION}
        onChange={(v) => change(["weather", "precipitation"], v)}
        hint={howKnown(plan, "weather.precipitation")}
      />
      <QuantityInput
        label="Kp index"
        hint={howKnown(plan, "weather.kp")}
        quantity="count"
        digits={1}
        step={0.1}
        slider={false}
        value={plan.weather.kp}
        min={0}
        max={9}
        onChange={(v) => change(["weather", "kp"], v)}
      />
      <Origins plan={plan} />
      {plan.weather.report != null && own.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          By hand, whatever the forecast says:{" "}
          {own.map((figure) => FIGURES[figure] ?? figure).join(", ")}.{" "}
          <Button size="small" onClick={back}>
            Back to the forecast
          </Button>
        </Typography>
      )}
    </Group>
  );
}

const FIGURES: Record<string, string> = {
  winds: "wind",
  temperature_c: "air",
  dew_point_c: "dew point",
  visibility_m: "visibility",
  precipitation: "rain",
  kp: "Kp",
  cloud_base_m: "cloud base",
};

type Provenance = Plan["weather"]["provenance"];

/** Where the figures come from and how old they are, one line a source. */
function Origins({ plan }: { plan: Plan }) {
  const now = useNow();
  const { as_of } = plan.weather;
  const provenance = (plan.weather.provenance as Provenance | undefined) ?? [];
  const lines = new Map<string, string[]>();
  for (const p of provenance) {
    const age = p.as_of ? since(new Date(p.as_of), now) : "age not known";
    const key = `${p.source}, ${age}`;
    lines.set(key, [...(lines.get(key) ?? []), FIGURES[p.figure] ?? p.figure]);
  }
  const rest = as_of ? since(new Date(as_of), now) : "age not known";
  return (
    <Box sx={{ mt: 1 }} role="note" aria-label="Where the figures come from">
      {[...lines].map(([source, figures]) => (
        <Typography key={source} variant="body2" color="text.secondary">
          {source}: {figures.join(", ")}
        </Typography>
      ))}
      <Typography variant="body2" color="text.secondary">
        {lines.size > 0 ? "All else" : "As of"}: {rest}
      </Typography>
    </Box>
  );
}

function WindLevel({
  wind,
  known,
  several,
  change,
  remove,
}: {
  wind: Wind;
  known: string;
  several: boolean;
  change: <K extends keyof Wind>(key: K, value: Wind[K]) => void;
  remove: () => void;
}) {
  const units = useUnits();
  const at = ` at ${written(wind.height_m, "length", units)}`;
  return (
    <Box
      role="group"
      aria-label={`Wind${at}`}
      sx={{ borderBottom: several ? 1 : 0, borderColor: "divider", pb: several ? 1 : 0, mb: 1 }}
    >
      <QuantityInput
        label={`Wind${at}`}
        hint={known}
        quantity="speed"
        value={wind.speed_ms}
        min={0}
        max={20}
        most={75}
        onChange={(v) => change("speed_ms", v)}
      />
      <OptionalQuantityInput
        label={`Gusts${at}`}
        quantity="speed"
        value={wind.gust_ms}
        first={wind.speed_ms}
        min={0}
        max={25}
        least={wind.speed_ms}
        most={75}
        unknown="estimated"
        onChange={(v) => change("gust_ms", v === null ? null : Math.max(v, wind.speed_ms))}
      />
      <QuantityInput
        label="Wind from"
        hint={bearingWord(wind.direction_deg)}
        quantity="angle"
        value={wind.direction_deg}
        min={0}
        max={360}
        step={5}
        onChange={(v) => change("direction_deg", v)}
      />
      <Box sx={{ display: "flex", gap: 1, alignItems: "center" }}>
        <Choice
          label="Source"
          value={wind.source}
          options={SOURCES}
          onChange={(v) => change("source", v)}
        />
        <Box sx={{ minWidth: 130 }}>
          <QuantityInput
            label="Wind height"
            quantity="length"
            value={wind.height_m}
            min={0.5}
            max={1000}
            slider={false}
            digits={wind.height_m < 10 ? 1 : 0}
            onChange={(v) => change("height_m", v)}
          />
        </Box>
        {several && (
          <IconButton aria-label={`Remove wind${at}`} onClick={remove}>
            <DeleteIcon />
          </IconButton>
        )}
      </Box>
    </Box>
  );
}

const COMPASS = "north north-east east south-east south south-west west north-west".split(" ");

function bearingWord(degrees: number): string {
  return COMPASS[Math.round(degrees / 45) % 8]!;
}
