import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Windows, Plan, Problem, Told, Window } from "../../../api/client";
import { useLook, useWeatherActions } from "../../../api/weather";
import { TimeHeight, TimeHeightKey } from "../../../drawings/TimeHeight";
import { windAt } from "../../../drawings/timeHeight";
import { ProblemNote } from "../../../shell/notes";
import { usePreferences } from "../../../shell/preferences";
import { clock, day } from "../../../shell/time";
import { Choice } from "../../../inputs/fields";
import { bearing, written } from "../../../units/units";
import { VERDICT_WORDS } from "../../../shell/marks";
import { WatchHistory } from "../../../forecasts/WatchHistory";
import { Compared } from "./Compared";
import { ForecastChange, type Taken } from "./ForecastChange";
import { Sources } from "./Sources";

/** When to go: the weather that is known, the wind by time and height, the windows cut out of it. */
export function WhenPanel({
  sessionId,
  plan,
  replace,
}: {
  sessionId: number;
  plan: Plan;
  replace: (plan: Plan) => void;
}) {
  const { units } = usePreferences();
  const [chosen, setChosen] = useState<number | null>(null);
  const [best, setBest] = useState(false);
  const [pointed, setPointed] = useState<number | null>(null);
  const look = useLook(plan, chosen, units, true);
  const { fill } = useWeatherActions();
  const [taken, setTaken] = useState<Taken | null>(null);

  const take = (takeoffAt: string, told: Told | null, report = look.data?.report?.id) => {
    const bearing_deg = best && told ? told.bearing_deg : plan.flight.bearing_deg;
    const moved = { ...plan, takeoff_at: takeoffAt, flight: { ...plan.flight, bearing_deg } };
    if (report === undefined) return replace(moved);
    fill.mutate(
      { report, takeoff_at: takeoffAt, plan },
      {
        onSuccess: ({ weather }) => {
          const after = { ...moved, weather };
          replace(after);
          setTaken({ before: plan, after });
        },
      },
    );
  };

  const data = look.data;
  const cursor = data ? (pointed ?? ownSlot(data, plan.takeoff_at)) : 0;
  return (
    <>
      <Sources plan={plan} report={data?.report ?? null} chosen={chosen} choose={setChosen} />
      <Compared
        plan={plan}
        use={(report) => {
          setChosen(report);
          take(plan.takeoff_at, null, report);
        }}
        busy={fill.isPending || look.isPlaceholderData}
      />
      {look.error && (
        <ProblemNote problem={look.error as Problem} again={() => void look.refetch()} />
      )}
      {fill.error && <ProblemNote problem={fill.error as Problem} />}
      {taken && (
        <ForecastChange
          taken={taken}
          undo={() => {
            replace(taken.before);
            setTaken(null);
          }}
          done={() => setTaken(null)}
        />
      )}
      {look.isPending && <Typography role="status">Checking every half hour…</Typography>}
      {data && (
        <>
          {!data.report && (
            <Typography color="text.secondary">
              No forecast by the hour is known here: every half hour is checked with the planned
              weather. Fetch one, or paste a report.
            </Typography>
          )}
          <TimeHeight look={data} best={best} cursor={cursor} onCursor={setPointed} />
          <Slider
            size="small"
            aria-label="Half hour looked at"
            value={cursor}
            min={0}
            max={data.slots.length - 1}
            getAriaValueText={(v) => slotTime(data, v)}
            onChange={(_, v) => setPointed(v as number)}
            sx={{ ml: "50px", width: "calc(100% - 58px)", display: "block", py: 1 }}
          />
          <TimeHeightKey />
          <Reading
            look={data}
            slot={Math.min(cursor, data.slots.length - 1)}
            plan={plan}
            best={best}
            take={take}
            busy={fill.isPending || look.isPlaceholderData}
          />
          <Box sx={{ maxWidth: 320, mt: 1 }}>
            <Choice
              label="Windows on"
              value={best ? "best" : "planned"}
              options={{
                planned: `the planned bearing, ${bearing(plan.flight.bearing_deg)}`,
                best: "the best bearing of each half hour",
              }}
              onChange={(v) => setBest(v === "best")}
            />
          </Box>
          <Windows
            look={data}
            best={best}
            take={take}
            busy={fill.isPending || look.isPlaceholderData}
          />
        </>
      )}
      <WatchHistory sessionId={sessionId} />
    </>
  );
}

/** The slot of the plan's own take-off; the first where it is not among them. */
function ownSlot(look: Windows, takeoffAt: string): number {
  const at = Date.parse(takeoffAt);
  const found = look.slots.findLastIndex((s) => Date.parse(s.at) <= at);
  return found < 0 || at - Date.parse(look.slots[found]!.at) > 30 * 60_000 ? 0 : found;
}

function slotTime(look: Windows, slot: number): string {
  const at = look.slots[slot]?.at;
  return at ? `${day(at).slice(0, -5)}, ${clock(at)}` : "";
}

const GLOW_WORDS = {
  night: "night",
  twilight: "civil twilight",
  golden: "golden hour",
  day: "day",
} as const;

function Reading({
  look,
  slot,
  plan,
  best,
  take,
  busy,
}: {
  look: Windows;
  slot: number;
  plan: Plan;
  best: boolean;
  take: (at: string, told: Told | null) => void;
  busy: boolean;
}) {
  const { units } = usePreferences();
  const found = look.slots[slot]!;
  const told = best ? found.best : found.planned;
  const wind = windAt(look, slot, look.working_height_m);
  const here = found.at === plan.takeoff_at;
  const used = (plan.weather.report ?? null) === (look.report?.id ?? null);
  const warmth = look.curtain.temperature_c[slot];
  const parts = [
    wind &&
      `${written(wind.speed, "speed", units)} from ${bearing(wind.from)}, gusts ${written(wind.gust, "speed", units)} at ${written(look.working_height_m, "length", units)}`,
    warmth != null && written(warmth, "temperature", units),
    `${GLOW_WORDS[found.glow]}, sun ${Math.round(found.sun_elevation_deg).toString().replace("-", "−")}° high`,
    found.glare_towards.length > 0 && `glare towards ${found.glare_towards.join(", ")}`,
  ].filter(Boolean);
  return (
    <Box
      sx={{ mt: 1, p: 1.25, border: 1, borderColor: "divider", borderRadius: "10px" }}
      aria-live="polite"
    >
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, flexWrap: "wrap" }}>
        <Typography sx={{ fontWeight: 750, flex: 1 }}>
          {slotTime(look, slot)}: {told ? VERDICT_WORDS[told.verdict].toLowerCase() : "no forecast"}
          {told && best ? ` towards ${bearing(told.bearing_deg)}` : ""}
        </Typography>
        <Button
          size="small"
          variant="outlined"
          disabled={busy || !told || (here && used)}
          onClick={() => take(found.at, told)}
        >
          Take off at {clock(found.at)}
        </Button>
      </Box>
      {told && <Typography variant="body2">{told.sentence}</Typography>}
      <Typography variant="body2" color="text.secondary">
        {parts.join(" · ")}
      </Typography>
    </Box>
  );
}

function Windows({
  look,
  best,
  take,
  busy,
}: {
  look: Windows;
  best: boolean;
  take: (at: string, told: Told | null) => void;
  busy: boolean;
}) {
  const found = best ? look.best : look.planned;
  if (found.length === 0)
    return (
      <Typography sx={{ mt: 1 }}>
        No launch window in these two days{best ? "" : " on the planned bearing"}. Most common
        reason in daylight: {mostOften(look, best) ?? "no forecast"}.
      </Typography>
    );
  return (
    <Box component="ul" aria-label="Launch windows" sx={{ listStyle: "none", m: 0, p: 0 }}>
      {found.map((w) => (
        <Box
          component="li"
          key={w.begin}
          sx={{
            display: "flex",
            gap: 1,
            alignItems: "center",
            borderTop: 1,
            py: 0.75,
            borderColor: "divider",
          }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Typography sx={{ fontWeight: 700 }}>
              {day(w.begin).slice(0, -5)}, {clock(w.begin)} to {clock(w.end)}
              {w.clear ? "" : " · caution throughout"}
            </Typography>
            <Typography variant="body2" color="text.secondary">
              {edges(w)}
            </Typography>
          </Box>
          <Button
            variant="outlined"
            size="small"
            disabled={busy}
            aria-label={`Use this window: from ${clock(w.begin)}`}
            onClick={() => take(w.begin, w.first)}
          >
            Use this window
          </Button>
        </Box>
      ))}
    </Box>
  );
}

/** What decides most half hours that are not night. */
function mostOften(look: Windows, best: boolean): string | null {
  const counts = new Map<string, number>();
  for (const slot of look.slots) {
    const told = best ? slot.best : slot.planned;
    if (told && slot.glow !== "night") counts.set(told.label, (counts.get(told.label) ?? 0) + 1);
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  return most ? most[0].toLowerCase() : null;
}

function edges(w: Window): string {
  const opens = w.opens
    ? `opens ${clock(w.begin)} (before that: ${reason(w.opens)})`
    : "open from the start";
  const closes = w.closes
    ? `closes after ${clock(w.end)}: ${reason(w.closes)}`
    : "still open at the end";
  return `${opens}; ${closes}.`;
}

function reason(told: Told): string {
  return told.label.charAt(0).toLowerCase() + told.label.slice(1);
}
