import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useAsking, useCompared } from "../../../api/forecasts";
import type { Comparison, Plan, Problem, SaidByOne } from "../../../api/client";
import { ProblemNote } from "../../../shell/notes";
import { tone, VERDICT_WORDS, VerdictMark } from "../../../shell/marks";
import { useUnits } from "../../../shell/preferences";
import { ago, clock } from "../../../shell/time";
import { useNow } from "../../../shell/useNow";
import { bearing, farWritten, written, type Units } from "../../../units/units";

const FAR_M = 5_000;

/** What each forecast says about the take-off, on one scale, and which of them plans. */
export function Compared({
  plan,
  use,
  busy,
}: {
  plan: Plan;
  use: (report: number) => void;
  busy: boolean;
}) {
  const units = useUnits();
  const compared = useCompared(plan, units);
  // What is about to be renewed is not taken: it would be the old one under the same name.
  const renewed = useAsking() || compared.isFetching;
  const found = compared.data;
  if (compared.error)
    return (
      <ProblemNote problem={compared.error as Problem} again={() => void compared.refetch()} />
    );
  if (!found || found.said.length === 0) return null;
  // The end of the scale is never less than a fresh breeze, so that calm days look calm.
  const most = Math.max(8, ...found.said.map((s) => s.wind?.gust_ms ?? 0));
  return (
    <Box component="section" aria-label="Forecasts for the take-off" sx={{ mb: 1.5 }}>
      <Typography component="h3" sx={{ fontWeight: 750 }}>
        Forecasts for {clock(plan.takeoff_at)}: wind and gusts at{" "}
        {written(found.height_m, "length", units)}, the height of the way home
      </Typography>
      <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {found.said.map((said) => (
          <Row
            key={said.report.id}
            said={said}
            most={most}
            units={units}
            use={use}
            busy={busy || renewed}
          />
        ))}
      </Box>
      {found.spread && (
        <Typography variant="body2">
          {spreadWords(found.spread, plan.minimums.wind_spread_pct, units)}
        </Typography>
      )}
    </Box>
  );
}

function spreadWords(
  spread: NonNullable<Comparison["spread"]>,
  usualPct: number,
  units: Units,
): string {
  const counted = Math.round(100 * Math.max(spread.share, usualPct / 200));
  return (
    `${spread.count} fresh forecasts: ${written(spread.least_ms, "speed", units)} to ` +
    `${written(spread.most_ms, "speed", units)}, ±${Math.round(100 * spread.share)}%. The chance ` +
    `counts with ±${counted}% of wind, instead of the ±${usualPct}% of your minimums` +
    (spread.share < usualPct / 200 ? ": half of it is the least." : ".")
  );
}

function Row({
  said,
  most,
  units,
  use,
  busy,
}: {
  said: SaidByOne;
  most: number;
  units: Units;
  use: (report: number) => void;
  busy: boolean;
}) {
  const now = useNow();
  const { wind, report } = said;
  const away = report.away_m;
  const facts = [
    `${report.hours > 1 ? "issued" : "seen"} ${ago(new Date(report.issued_at), now)}`,
    !said.fresh && report.hours > 1 && "too old for your minimums",
    away != null && away > FAR_M && `for a point ${farWritten(away, units)} away`,
  ].filter(Boolean);
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: {
          xs: "32px minmax(0,1fr) auto",
          md: "32px minmax(0,1fr) minmax(0,1fr) 132px",
        },
        gridTemplateAreas: {
          xs: '"mark what use" "mark wind wind"',
          md: '"mark what wind use"',
        },
        columnGap: 1,
        alignItems: "center",
        borderTop: 1,
        borderColor: "divider",
        py: 0.75,
        opacity: said.fresh ? 1 : 0.75,
      }}
    >
      <Box sx={{ gridArea: "mark", lineHeight: 0 }}>
        <VerdictMark verdict={said.verdict} size={28} />
      </Box>
      <Box sx={{ gridArea: "what", minWidth: 0 }}>
        <Typography sx={{ fontWeight: 700, lineHeight: 1.2 }}>
          {report.name}
          {said.strictest && (
            <Box component="span" sx={{ fontWeight: 400 }}>
              {" "}
              · the strictest
            </Box>
          )}
        </Typography>
        <Typography variant="body2">
          <Box component="span" sx={{ fontWeight: 700, color: tone(said.verdict) }}>
            {VERDICT_WORDS[said.verdict]}
          </Box>
          : {said.tightest.label.toLowerCase()}
        </Typography>
        <Typography variant="body2" color="text.secondary">
          {facts.join(" · ")}
        </Typography>
      </Box>
      <Box sx={{ gridArea: "wind", minWidth: 0 }}>
        {wind ? (
          <>
            <Typography variant="body2">
              {written(wind.speed_ms, "speed", units)} from {bearing(wind.direction_deg)}, gusts{" "}
              {written(wind.gust_ms, "speed", units)}
            </Typography>
            <Box
              aria-hidden
              sx={{ position: "relative", height: 10, borderRadius: 5, bgcolor: "action.hover" }}
            >
              <Box
                sx={{
                  position: "absolute",
                  height: 10,
                  borderRadius: 5,
                  width: `${(100 * wind.gust_ms) / most}%`,
                  bgcolor: "action.selected",
                }}
              />
              <Box
                sx={{
                  position: "absolute",
                  height: 10,
                  borderRadius: 5,
                  width: `${(100 * wind.speed_ms) / most}%`,
                  bgcolor: tone(said.verdict),
                }}
              />
            </Box>
          </>
        ) : (
          <Typography variant="body2" color="text.secondary">
            says no wind
          </Typography>
        )}
      </Box>
      <Box sx={{ gridArea: "use", textAlign: "right" }}>
        {said.plans ? (
          <Typography variant="body2" sx={{ fontWeight: 700 }}>
            Planned with
          </Typography>
        ) : (
          <Button
            size="small"
            variant={said.strictest ? "contained" : "outlined"}
            disabled={busy}
            aria-label={`Plan with it: ${report.name}`}
            onClick={() => use(report.id)}
          >
            Plan with it
          </Button>
        )}
      </Box>
    </Box>
  );
}
