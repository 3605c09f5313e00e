import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { lazy, Suspense, useState } from "react";
import { Link } from "react-router";
import type { Plan, Problem, Result, Section } from "../../../api/client";
import { usePlace, useSurvey } from "../../../api/places";
import type { Change } from "../../../editing/change";
import { ProblemNote, Waiting } from "../../../shell/notes";
import { useUnits } from "../../../shell/preferences";
import { bearing, written } from "../../../units/units";
import { Cut } from "./Cut";
import { Moves } from "./Moves";
import { Suggestions } from "./Suggestions";

/** The drawing comes with all that it takes to draw a map; the words beside it do not wait for it. */
const PlanView = lazy(() => import("./PlanView").then((m) => ({ default: m.PlanView })));

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
  /** The plan as drawn: with a fix that is tried, if there is one. */
  shown: Plan;
  result: Result;
  change: Change<Plan>;
  replace: (plan: Plan) => void;
}) {
  const units = useUnits();
  // Sessions that were planned at a place keep it when it is deleted.
  const place = usePlace(plan.site.place, true);
  const survey = useSurvey(shown);
  // The plan view tells what the way home clears out of the same cut.
  const [cut, setCut] = useState<Section | undefined>(undefined);
  const length = (m: number) => written(m, "length", units);

  if (place.error)
    return <ProblemNote problem={place.error as Problem} again={() => void place.refetch()} />;
  if (!place.data) return <Typography role="status">Loading the place…</Typography>;
  const seen = survey.data;
  const fault = survey.error as Problem | null;
  return (
    <>
      {fault && <ProblemNote problem={fault} />}
      <Suspense fallback={<Waiting what="the map" />}>
        <PlanView
          opened={place.data}
          plan={shown}
          result={result}
          survey={seen}
          section={cut}
          change={change}
        />
      </Suspense>
      <Legend water={plan.site.over_water || (seen?.over_water ?? false)} />
      {seen && (
        <Box component="ul" aria-label="Seen from the take-off point" sx={{ my: 0.5, pl: 2.5 }}>
          {seen.subjects.map((s) => (
            <li key={s.id}>
              {s.name || "Subject"}: {length(s.distance_m)} towards {bearing(s.bearing_deg)},{" "}
              {LIGHT[s.light]}
              {s.ground_m != null && Math.abs(s.ground_m) > 2
                ? `, base ${length(Math.abs(s.ground_m))} ${s.ground_m < 0 ? "below" : "above"} you`
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
              {w.name || "Landing spot"}: {length(w.distance_m)} from the far point
              {w.charge_pct == null
                ? ", out of range against the wind"
                : `, lands there with ${Math.round(w.charge_pct)}%`}
            </li>
          ))}
        </Box>
      )}
      <Cut plan={shown} survey={seen} onCut={setCut} change={change} />
      <Moves plan={plan} place={place.data.place} survey={seen} result={result} change={change} />
      <Suggestions plan={plan} replace={replace} />
      <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", mt: 1 }}>
        <Button component={Link} to={`/places/${place.data.id}`} size="small">
          Draw at this place
        </Button>
        <Typography variant="body2" color="text.secondary" sx={{ mx: 1 }}>
          Export take-off, route, range and place as
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

const MARKS: [string, string, string | undefined][] = [
  ["battery range", "var(--launch)", undefined],
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
