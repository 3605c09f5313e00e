import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Slider from "@mui/material/Slider";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";
import type { Plan, Problem, Result, Survey } from "../../../api/client";
import { usePlace, useSection, useSurvey } from "../../../api/places";
import { Section } from "../../../drawings/Section";
import type { Path } from "../../../editing/history";
import { ProblemNote } from "../../../frame/notes";
import { useUnits } from "../../../frame/preferences";
import { polar } from "../../../map/local";
import { bearing, written } from "../../../units/units";
import { Moves } from "./Moves";
import { PlanView } from "./PlanView";
import { Suggestions } from "./Suggestions";

const LIGHT = {
  front: "front light",
  side: "side light",
  back: "back light",
  none: "no sun",
} as const;

/** The place of a session: from above, and cut through. */
export function LandPanel({
  sessionId,
  plan,
  shown,
  result,
  change,
  replace,
}: {
  sessionId: number;
  plan: Plan;
  /** The plan as drawn: with a lever that is tried, if there is one. */
  shown: Plan;
  result: Result;
  change: (path: Path, value: unknown) => void;
  replace: (plan: Plan) => void;
}) {
  const units = useUnits();
  // A deleted place still serves the sessions that were planned there.
  const place = usePlace(plan.site.place, true);
  const survey = useSurvey(shown);
  const [turned, setTurned] = useState<number | null>(null);
  const { flight } = shown;
  const towards = turned ?? flight.bearing_deg;
  const moves = movesIn(towards, shown, survey.data);
  const farthest = Math.max(flight.distance_m * 1.25, ...moves.map((m) => m.to_m * 1.1));
  const upto = Math.min(5000, Math.max(120, Math.ceil(farthest)));
  const section = useSection(shown, towards, upto);
  const length = (m: number) => written(m, "length", units);

  if (place.error)
    return <ProblemNote problem={place.error as Problem} again={() => void place.refetch()} />;
  if (!place.data) return <Typography role="status">Loading the place…</Typography>;
  const seen = survey.data;
  const fault = (survey.error ?? section.error) as Problem | null;
  return (
    <>
      {fault && <ProblemNote problem={fault} />}
      <PlanView
        opened={place.data}
        plan={shown}
        result={result}
        survey={seen}
        section={section.data}
        change={change}
      />
      <Legend water={plan.site.over_water || (seen?.over_water ?? false)} />
      {seen && (
        <Box component="ul" aria-label="Seen from the take-off point" sx={{ my: 0.5, pl: 2.5 }}>
          {seen.subjects.map((s) => (
            <li key={s.id}>
              {s.name || "Subject"}: {length(s.distance_m)} towards {bearing(s.bearing_deg)},{" "}
              {LIGHT[s.light]}
              {s.ground_m != null && Math.abs(s.ground_m) > 2
                ? `, its foot ${length(Math.abs(s.ground_m))} ${s.ground_m < 0 ? "below" : "above"} you`
                : ""}{" "}
              <Button
                size="small"
                sx={{ minHeight: 32, py: 0 }}
                onClick={() =>
                  replace({
                    ...plan,
                    flight: {
                      ...plan.flight,
                      bearing_deg: Math.round(s.bearing_deg * 10) / 10,
                      distance_m: Math.round(s.distance_m),
                    },
                  })
                }
              >
                Fly there
              </Button>
            </li>
          ))}
          {seen.ways_down.slice(0, 3).map((w) => (
            <li key={w.id}>
              {w.name || "Landing spot"}: {length(w.distance_m)} from the far end
              {w.charge_pct == null
                ? ", not in reach against the wind"
                : `, down there with ${Math.round(w.charge_pct)} %`}
            </li>
          ))}
        </Box>
      )}
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.5, mt: 1 }}>
        <Typography component="h3" sx={{ fontWeight: 700, whiteSpace: "nowrap" }}>
          Section towards {bearing(towards)}
        </Typography>
        <Slider
          size="small"
          aria-label="Section towards"
          value={towards}
          min={0}
          max={359}
          onChange={(_, v) => setTurned(v as number)}
        />
        {turned !== null && (
          <Button size="small" sx={{ whiteSpace: "nowrap" }} onClick={() => setTurned(null)}>
            Along the flight
          </Button>
        )}
      </Box>
      {section.data && (
        <Section
          plan={shown}
          section={section.data}
          along={turned === null}
          moves={moves}
          onReturnHeight={(v) => change(["settings", "rth_altitude_m"], v)}
          onHeight={(v) => change(["flight", "height_m"], v)}
        />
      )}
      <Moves plan={plan} place={place.data.place} survey={seen} result={result} change={change} />
      <Suggestions plan={plan} replace={replace} />
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", mt: 1 }}>
        <Button component={Link} to={`/places/${place.data.id}`} size="small">
          Draw at this place
        </Button>
        <Typography variant="body2" color="text.secondary" sx={{ mx: 1 }}>
          Take-off, leg, reach and place as
        </Typography>
        {(["geojson", "kml", "gpx"] as const).map((form) => (
          <Button
            key={form}
            size="small"
            component="a"
            download
            href={`/api/sessions/${sessionId}/export.${form}`}
          >
            {form.toUpperCase()}
          </Button>
        ))}
      </Box>
    </>
  );
}

/** The planned moves that a cut along a bearing goes through, within 15° of it. */
function movesIn(towards: number, plan: Plan, survey: Survey | undefined) {
  const here = { lat: plan.site.latitude, lon: plan.site.longitude };
  return (survey?.moves ?? []).filter((_, i) => {
    const move = plan.flight.moves[i];
    if (!move) return false;
    const { bearing: b, distance } = polar(here, { lat: move.latitude, lon: move.longitude });
    return distance < move.size_m || Math.abs(((b - towards + 540) % 360) - 180) <= 15;
  });
}

const MARKS: [string, string, string | undefined][] = [
  ["home in reach", "var(--launch)", undefined],
  ["sight", "var(--ink)", "1 6"],
  ["signal", "var(--wind)", "10 6"],
  ["water limit", "var(--care)", "3 5 10 5"],
];

function Legend({ water }: { water: boolean }) {
  return (
    <Box
      aria-hidden="true"
      sx={{ display: "flex", flexWrap: "wrap", columnGap: 2, fontSize: 13, mt: 0.5 }}
    >
      {MARKS.filter(([name]) => water || name !== "water limit").map(([name, tone, dash]) => (
        <Box key={name} sx={{ display: "flex", alignItems: "center", gap: 0.75 }}>
          <svg width="34" height="8">
            <line
              x1="1"
              x2="33"
              y1="4"
              y2="4"
              stroke={tone}
              strokeWidth="3"
              strokeDasharray={dash}
              strokeLinecap="round"
            />
          </svg>
          {name}
        </Box>
      ))}
    </Box>
  );
}
