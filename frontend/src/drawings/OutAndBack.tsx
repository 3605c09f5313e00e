import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Energy, Plan, Result } from "../api/client";
import { useUnits } from "../shell/preferences";
import { inHundred, numeral, unitName, written } from "../units/units";
import { BottomAxis, Figure, Label, LeftAxis, LINE, type Margin } from "./kit";
import { bestWayHome } from "./wayHome";
import { atTheTurn, bandAlong, chargeAlong, type BandPoint, type WayPoint } from "./outAndBack";

const HEIGHT = 232;
const MARGIN: Margin = { top: 28, right: 14, bottom: 26, left: 50 };

const LEG_NAMES: Record<string, string> = {
  hover_check: "Hover check",
  climb: "Climb",
  outbound: "Out",
  station: "Filming",
  return_climb: "Climb to return height",
  return: "Home",
  descent: "Descent",
  landing: "Landing",
};

/** Off upwind by less than this, a leg goes into the wind; beyond the rest of it, with the wind [°]. */
const ALONG_DEG = 60;

function windWord(course: number, from: number): string {
  const off = Math.abs(((from - course + 540) % 360) - 180);
  if (off < ALONG_DEG) return "into the wind";
  if (off > 180 - ALONG_DEG) return "with the wind";
  return "across the wind";
}

function reading(energy: Energy, result: Result): string {
  if (energy.blocked) {
    const way = energy.blocked === "outbound" ? "out" : "home";
    return `No headway against the wind on the flight ${way}.`;
  }
  const turn = atTheTurn(energy);
  const parts = [`Lands with ${Math.round(energy.landing_pct!)}% of charge.`];
  if (result.turn_back && turn) {
    parts.push(
      `Turn back at ${Math.round(result.turn_back.charge_pct)}%; ` +
        `the plan leaves the far point with ${Math.round(turn.leave)}%.`,
    );
  }
  if (result.chance) {
    parts.push(
      `${inHundred(result.chance.above_reserve)} of 100 simulated flights land with ${result.reserve_pct}% or more, ` +
        `${inHundred(result.chance.above_forced)} above the forced landing.`,
    );
  }
  return parts.join(" ");
}

const NOT_KNOWN =
  "The flight out and home can be drawn once the wind above the shelter is known. Add a forecast or a reading under Weather.";

/** Will the pack bring it home? Charge over distance, out to the right half, back to the left. */
export function OutAndBack({ plan, result }: { plan: Plan; result: Result }) {
  const units = useUnits();
  const { energy, other_way: other } = result;
  if (!energy) {
    return (
      <Typography color="text.secondary" sx={{ py: 4 }}>
        {result.tables_of
          ? "The field tables say only whether it comes home. It is drawn when the server is back."
          : NOT_KNOWN}
      </Typography>
    );
  }
  // A flight on the spot still has a way up and down to draw.
  const distance = Math.max(plan.flight.distance_m, 1);
  const start = plan.pack.charge_pct;
  const points = chargeAlong(energy, distance, start);
  const band = result.chance && bandAlong(energy, result.chance.legs, distance, start);
  const summary = reading(energy, result);
  const best = bestWayHome(result, units);

  return (
    <Figure
      height={HEIGHT}
      label={`Charge on the way out and back. ${summary}`}
      draw={(width) => {
        const x = scaleLinear([0, 2 * distance], [MARGIN.left, width - MARGIN.right]);
        const y = scaleLinear([0, 100], [HEIGHT - MARGIN.bottom, MARGIN.top]).clamp(true);
        const path = line<WayPoint>(
          (p) => x(p.along),
          (p) => y(p.charge),
        );
        const spread = area<BandPoint>()
          .x((p) => x(p.along))
          .y0((p) => y(p.low))
          .y1((p) => y(p.high));
        const turn = atTheTurn(energy);
        const middle = x(distance);
        const half = middle - MARGIN.left;
        const wide = half > 250;
        const from = result.wind?.planned.direction_deg;
        const home = result.wind?.return.direction_deg;
        const out = plan.flight.bearing_deg;
        const over = wide ? " ground speed" : "";
        // A narrow drawing has room for the speeds alone.
        const way = (name: string, word: string, ms: number | null) =>
          [wide ? `${name} ${word}` : name, ms !== null && written(ms, "speed", units)]
            .filter(Boolean)
            .join(wide ? ", " : " ");
        const tick = (m: number) => numeral(m, "length", units);
        const flag = result.turn_back && y(result.turn_back.charge_pct);
        const otherEnd = other?.landing_pct;
        const homeAbove = otherEnd == null || otherEnd <= (energy.landing_pct ?? 101);
        return (
          <>
            <LeftAxis ticks={[0, 50, 100]} scale={y} x={MARGIN.left} name={(t) => `${t}%`} />
            <BottomAxis
              y={y(0)}
              from={MARGIN.left}
              to={width - MARGIN.right}
              ticks={[0, 0.5, 1, 1.5, 2].map((share) => ({
                at: x(share * distance),
                name:
                  share === 1
                    ? `${tick(distance)} ${unitName("length", units)}`
                    : tick(distance * Math.min(share, 2 - share)),
              }))}
            />
            <line x1={middle} x2={middle} y1={MARGIN.top - 8} y2={y(0)} stroke="var(--line)" />
            <Label x={MARGIN.left} y={14} color="var(--wind)">
              {from === undefined
                ? "out"
                : `${way("out", windWord(out, from), energy.ground_speed_out_ms)}${over}`}
            </Label>
            <Label x={width - MARGIN.right} y={14} anchor="end" color="var(--wind)">
              {home === undefined
                ? "home"
                : way("home", windWord(out + 180, home), energy.ground_speed_home_ms)}
            </Label>
            <line
              x1={MARGIN.left}
              x2={width - MARGIN.right}
              y1={y(result.reserve_pct)}
              y2={y(result.reserve_pct)}
              {...LINE.reserve}
            />
            <Label x={MARGIN.left + 6} y={y(result.reserve_pct) - 6} color="var(--care)">
              {`land with ${result.reserve_pct}%`}
            </Label>
            <line
              x1={MARGIN.left}
              x2={width - MARGIN.right}
              y1={y(result.forced_landing_pct)}
              y2={y(result.forced_landing_pct)}
              {...LINE.forced}
            />
            <Label x={MARGIN.left + 6} y={y(result.forced_landing_pct) - 5} color="var(--stay)">
              {`lands itself at ${result.forced_landing_pct}%`}
            </Label>
            {band && <path d={spread(band) ?? ""} fill="var(--wind)" opacity="0.18" />}
            {other && other.legs.length > 0 && (
              <path d={path(chargeAlong(other, distance, start)) ?? ""} {...LINE.other} />
            )}
            <path d={path(points) ?? ""} {...LINE.main} />
            {other && (
              <Label
                x={width - MARGIN.right - 4}
                y={otherEnd == null ? y(52) : y(otherEnd) + (homeAbove ? 18 : -10)}
                anchor="end"
              >
                {otherEnd == null
                  ? "opposite direction: can’t get home"
                  : `the other way round: ${Math.round(otherEnd)}%`}
              </Label>
            )}
            {energy.landing_pct !== null && (
              <Label
                x={width - MARGIN.right - 4}
                y={y(energy.landing_pct) + (homeAbove ? -10 : 18)}
                anchor="end"
                color="var(--ink)"
                bold
              >
                {`lands with ${Math.round(energy.landing_pct)}%`}
              </Label>
            )}
            {flag != null && turn && (
              <TurnBackFlag
                x={middle}
                y={flag}
                charge={result.turn_back!.charge_pct}
                late={turn.leave < result.turn_back!.charge_pct}
              />
            )}
            {energy.blocked && (
              <Label x={middle + 8} y={y(60)} color="var(--stay)" bold>
                can’t get home from here
              </Label>
            )}
          </>
        );
      }}
    >
      <figcaption>
        <Typography variant="body2">{summary}</Typography>
        {best && <Typography variant="body2">{best}</Typography>}
        <LegTable energy={energy} />
      </figcaption>
    </Figure>
  );
}

function TurnBackFlag({
  x,
  y,
  charge,
  late,
}: {
  x: number;
  y: number;
  charge: number;
  late: boolean;
}) {
  const body = late ? "var(--stay)" : "var(--launch)";
  const text = `turn back at ${Math.round(charge)}%`;
  const width = 144;
  return (
    <g>
      <line x1={x} x2={x} y1={y - 11} y2={y + 22} stroke={body} strokeWidth="3" />
      <path
        d={`M${x} ${y - 11}h${width}l-8 11l8 11h${-width}z`}
        fill={body}
        stroke="var(--card)"
        strokeWidth="1"
      />
      <text x={x + 9} y={y + 5} fill="var(--onVerdict)" fontSize="13" fontWeight="700">
        {text}
      </text>
    </g>
  );
}

function LegTable({ energy }: { energy: Energy }) {
  return (
    <Box component="details" sx={{ mt: 0.5, "& summary": { minHeight: 32, cursor: "pointer" } }}>
      <Typography component="summary" variant="body2" color="text.secondary">
        Leg by leg
      </Typography>
      <Box
        component="table"
        aria-label="Charge after each leg"
        sx={{ borderCollapse: "collapse", "& td, & th": { px: 1, py: 0.25, textAlign: "right" } }}
      >
        <thead>
          <tr>
            <th style={{ textAlign: "left" }}>Leg</th>
            <th>seconds</th>
            <th>Wh</th>
            <th>charge after</th>
          </tr>
        </thead>
        <tbody>
          {energy.legs.map((leg) => (
            <tr key={leg.name}>
              <th scope="row" style={{ textAlign: "left", fontWeight: 400 }}>
                {LEG_NAMES[leg.name] ?? leg.name}
              </th>
              <td>{Math.round(leg.seconds)}</td>
              <td>{leg.wh.toFixed(2)}</td>
              <td>{leg.charge_after_pct.toFixed(0)}%</td>
            </tr>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}
