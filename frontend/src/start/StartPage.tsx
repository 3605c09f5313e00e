import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { Problem, type Sheet } from "../api/client";
import { useKit, useSheet } from "../api/kit";
import { sessionsKey } from "../api/queries";
import { useTimeZone } from "../api/timeZone";
import { ProblemNote, Waiting } from "../shell/notes";
import { Panel } from "../shell/Panel";
import { CAUTION } from "../shell/Seal";
import { isoOf, offsetHere, offsetIn } from "../shell/time";
import { useForgetful } from "../shell/useForgetful";
import { readPosition } from "../inputs/position";
import { OptionalQuantityInput, QuantityInput } from "../inputs/QuantityInput";
import { tomorrowMorning } from "../sessions/tomorrow";
import { PRECIPITATION } from "../stages/plan/names";
import { quantityOf } from "../units/units";
import {
  aircraftOf,
  dropDraft,
  keepDraft,
  keptDraft,
  labels,
  leave,
  SHEET_KEYS,
  sheetValue,
  withSaid,
  type Draft,
} from "./draft";
import { labelsIn, makeAll } from "./make";
import { PlaceStep } from "./PlaceStep";

/** From nothing to the first true verdict: aircraft, batteries, place, time, weather. Left and gone on with at will. */
export function StartPage() {
  const sheet = useSheet();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [draft, setDraft] = useState(() => keptDraft(tomorrowMorning()));
  const [tried, setTried] = useState(false);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const at = readPosition(draft.position);
  const zone = useTimeZone(at);
  useEffect(() => {
    document.title = "First verdict · Lark";
  }, []);
  const forgetful = useForgetful();
  useEffect(() => {
    keepDraft(draft);
  }, [draft]);
  const say = (part: Partial<Draft>) => setDraft((now) => withSaid(now, part));

  if (sheet.isPending) return <Waiting what="the first steps" />;
  if (sheet.error)
    return <ProblemNote problem={sheet.error as Problem} again={() => void sheet.refetch()} />;
  const typical = sheet.data.classes.find((c) => c.label === draft.like)?.aircraft;
  const lacking = [
    !typical && "which aircraft is most like yours",
    draft.name.trim() === "" && "its name",
    !at && "the position of the place",
    draft.place.trim() === "" && "the name of the place",
    draft.when.length !== 16 && "the time",
  ].filter((words) => words !== false);
  const offset = zone ? offsetIn(zone, draft.when) : offsetHere(draft.when);

  const finish = async () => {
    setTried(true);
    if (lacking.length > 0 || !typical) return;
    setBusy(true);
    setProblem(null);
    try {
      const made = await makeAll(draft, typical, isoOf({ local: draft.when, offset }));
      dropDraft();
      await queries.invalidateQueries({ queryKey: sessionsKey });
      await navigate(`/sessions/${made.id}/plan`);
    } catch (cause) {
      setProblem(cause instanceof Problem ? cause : new Problem(0, String(cause)));
      setBusy(false);
    }
  };

  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 1100 }}>
      <Typography variant="h1">From your aircraft to a first verdict</Typography>
      <Typography color="text.secondary" sx={{ mb: 1.5 }}>
        Five steps, about three minutes.{" "}
        {forgetful
          ? "This browser has no room to keep what you say: finish in one go."
          : "What you say is kept on this device as you go."}{" "}
        What you do not know yet you leave open, and Lark asks for it later. Or take a session{" "}
        <Link to="/shared">from another pilot</Link>.
      </Typography>
      <Box
        sx={{
          columns: { md: 2 },
          columnGap: 1.5,
          "& > *": { breakInside: "avoid" },
        }}
      >
        <AircraftStep draft={draft} say={say} sheet={sheet.data} />
        <BatteryStep draft={draft} say={say} />
        <PlaceStep draft={draft} say={say} />
        <Panel title="4 · When" hint={zone ? `by the clock in ${zone}` : undefined}>
          <TextField
            type="datetime-local"
            fullWidth
            margin="dense"
            label={`Take-off (UTC${offset})`}
            value={draft.when}
            onChange={(e) => say({ when: e.target.value })}
            slotProps={{ inputLabel: { shrink: true } }}
          />
        </Panel>
        <WeatherStep draft={draft} say={say} />
        <Panel title="What follows">
          <Typography variant="body2" sx={{ mb: 1 }}>
            Lark puts aircraft and batteries into your gear, begins a session and judges it. Nothing
            passes on a figure that nobody said. {CAUTION}
          </Typography>
          {tried && lacking.length > 0 && (
            <Typography role="alert" color="error" sx={{ mb: 1 }}>
              Still missing: {lacking.join(", ")}.
            </Typography>
          )}
          {problem && <ProblemNote problem={problem} />}
          <Button
            variant="contained"
            fullWidth
            sx={{ minHeight: 56, mb: 1 }}
            disabled={busy}
            onClick={() => void finish()}
          >
            Show the verdict
          </Button>
          <Button
            fullWidth
            onClick={() => {
              leave();
              void navigate("/sessions");
            }}
          >
            Later: look around first
          </Button>
        </Panel>
      </Box>
    </Box>
  );
}

interface StepProps {
  draft: Draft;
  say: (part: Partial<Draft>) => void;
}

function AircraftStep({ draft, say, sheet }: StepProps & { sheet: Sheet }) {
  const typical = sheet.classes.find((c) => c.label === draft.like)?.aircraft;
  const mine = typical && aircraftOf(draft, typical);
  return (
    <Panel title="1 · Your aircraft" hint="most like">
      <ToggleButtonGroup
        exclusive
        fullWidth
        orientation="vertical"
        aria-label="Most like"
        value={draft.like}
        onChange={(_, like: string | null) => like && say({ like, sheet: {} })}
      >
        {sheet.classes.map((c) => (
          <ToggleButton key={c.label} value={c.label} sx={{ minHeight: 48 }}>
            {c.label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <TextField
        fullWidth
        margin="dense"
        label="What you call it"
        value={draft.name}
        onChange={(e) => say({ name: e.target.value })}
        slotProps={{ htmlInput: { maxLength: 80 } }}
      />
      {mine && (
        <>
          <Typography variant="body2" color="text.secondary">
            From its manual; what you leave is what aircraft of this kind have. The rest of the
            sheet is under Gear.
          </Typography>
          {SHEET_KEYS.map((key) => {
            const field = sheet.fields.find((f) => f.key === key)!;
            return (
              <QuantityInput
                key={`${draft.like}-${key}`}
                label={field.label}
                hint={draft.sheet[key] === undefined ? "typical" : "yours"}
                quantity={quantityOf(field.unit)}
                digits={key === "battery_wh" ? 1 : undefined}
                slider={false}
                min={field.least ?? 0}
                max={field.greatest ?? 1e6}
                value={sheetValue(mine, key)}
                onChange={(value) => say({ sheet: { ...draft.sheet, [key]: value } })}
              />
            );
          })}
        </>
      )}
    </Panel>
  );
}

function BatteryStep({ draft, say }: StepProps) {
  const called = labels(draft.packs, labelsIn(useKit().data ?? [])).join(", ");
  return (
    <Panel title="2 · Batteries" hint={called}>
      <QuantityInput
        label="How many of these"
        quantity="count"
        slider={false}
        min={1}
        max={12}
        value={draft.packs}
        onChange={(n) => say({ packs: Math.round(n) })}
      />
      <QuantityInput
        label="Cells in each"
        hint="“2S” is two"
        quantity="count"
        slider={false}
        min={1}
        max={14}
        value={draft.cells}
        onChange={(n) => say({ cells: Math.round(n) })}
      />
      <OptionalQuantityInput
        label="What they read now"
        quantity="percent"
        slider={false}
        always
        min={0}
        max={100}
        first={100}
        value={draft.charge_pct}
        onChange={(charge_pct) => say({ charge_pct })}
      />
      <Typography variant="body2" color="text.secondary">
        They are called {called}: write that on them too.
      </Typography>
    </Panel>
  );
}

function WeatherStep({ draft, say }: StepProps) {
  const { wind, air } = draft;
  const put = (key: keyof Draft["air"]) => (value: number | null) => {
    const others = Object.entries(air).filter(([other]) => other !== key);
    say({ air: Object.fromEntries(value === null ? others : [...others, [key, value]]) });
  };
  const blows = (part: Partial<Draft["wind"]>) => say({ wind: { ...wind, ...part } });
  const common = { slider: false, always: true } as const;
  return (
    <Panel title="5 · The weather then" hint="from the forecast that you read">
      <OptionalQuantityInput
        {...common}
        label="Wind at 10 m"
        quantity="speed"
        min={0}
        max={40}
        first={4}
        value={wind.speed_ms}
        onChange={(speed_ms) => blows({ speed_ms })}
      />
      <OptionalQuantityInput
        {...common}
        label="Gusts"
        quantity="speed"
        min={wind.speed_ms ?? 0}
        max={60}
        first={7}
        value={wind.gust_ms}
        onChange={(gust_ms) => blows({ gust_ms })}
      />
      <OptionalQuantityInput
        {...common}
        label="Blows from"
        quantity="angle"
        min={0}
        max={359}
        first={240}
        value={wind.direction_deg}
        onChange={(direction_deg) => blows({ direction_deg })}
      />
      <OptionalQuantityInput
        {...common}
        label="Air"
        quantity="temperature"
        min={-40}
        max={50}
        first={15}
        value={air.temperature_c ?? null}
        onChange={put("temperature_c")}
      />
      <OptionalQuantityInput
        {...common}
        label="Dew point"
        quantity="temperature"
        min={-60}
        max={air.temperature_c ?? 40}
        first={8}
        value={air.dew_point_c ?? null}
        onChange={put("dew_point_c")}
      />
      <OptionalQuantityInput
        {...common}
        label="How far one sees"
        quantity="length"
        min={0}
        max={50_000}
        first={10_000}
        value={air.visibility_m ?? null}
        onChange={put("visibility_m")}
      />
      <OptionalQuantityInput
        {...common}
        label="Kp index"
        quantity="count"
        digits={1}
        min={0}
        max={9}
        first={2}
        value={air.kp ?? null}
        onChange={put("kp")}
      />
      <TextField
        select
        fullWidth
        size="small"
        margin="dense"
        label="Rain, snow or fog"
        value={draft.precipitation ?? ""}
        onChange={(e) => say({ precipitation: (e.target.value || null) as Draft["precipitation"] })}
      >
        <MenuItem value="">Not said</MenuItem>
        {Object.entries(PRECIPITATION).map(([key, words]) => (
          <MenuItem key={key} value={key}>
            {words}
          </MenuItem>
        ))}
      </TextField>
    </Panel>
  );
}
