import Typography from "@mui/material/Typography";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import type { Plan, Section as SectionData } from "../api/client";
import { useUnits } from "../shell/preferences";
import { bearing, numeral, shown, unitName, written } from "../units/units";
import { BottomAxis, Figure, Label, LeftAxis, LINE, type Margin } from "./kit";
import { fallsBelow, gapsOf, lowestGap, pointsOf, type MoveBand, type Point } from "./section";

const HEIGHT = 300;
const MARGIN: Margin = { top: 22, right: 14, bottom: 28, left: 46 };

type Standing = SectionData["standing"][number];

/** Does it clear, and does the radio? A cut through the land along a bearing. */
export function Section({
  plan,
  section,
  along,
  moves = [],
  onReturnHeight,
  onHeight,
}: {
  plan: Plan;
  section: SectionData;
  /** Whether the cut is along the flight itself. */
  along: boolean;
  /** Planned moves that lie in the cut. */
  moves?: MoveBand[];
  onReturnHeight: (metres: number) => void;
  onHeight: (metres: number) => void;
}) {
  const units = useUnits();
  const { flight, settings } = plan;
  const home = Math.max(flight.height_m, settings.rth_altitude_m);
  const far = section.distance_m.at(-1) ?? 1;
  const ground = pointsOf(section, "ground_m");
  const surface = pointsOf(section, "surface_m");
  const legal = pointsOf(section, "legal_m");
  const low = Math.min(0, ...ground.map((p) => p.y)) - 6;
  const high = Math.max(
    home + 15,
    ...moves.map((m) => m.highest_m + 15),
    flight.height_m + 15,
    ...section.standing.map((s) => s.top_m + 12),
    ...surface.map((p) => p.y + 12),
    Math.min(Math.max(...legal.map((p) => p.y), 0) + 8, 170),
  );
  const gap = along ? lowestGap(section, flight.distance_m, home) : null;
  const length = (m: number) => written(m, "length", units);
  const clears = gap
    ? `Flying home at ${length(home)} ${gap.metres < 0 ? "hits" : "clears"} ${gap.what} ` +
      `${gap.metres < 0 ? `(${length(-gap.metres)} under its top)` : `by ${length(gap.metres)}`}.`
    : `Side view towards ${bearing(section.bearing_deg)}.`;
  const holes = gapsOf(section);
  const summary =
    holes.length > 0 ? `${clears} Ground height is unknown for a part of it.` : clears;

  return (
    <Figure
      height={HEIGHT}
      handles
      label={`Side view towards ${bearing(section.bearing_deg)}. ${summary}`}
      draw={(width) => {
        const x = scaleLinear([0, far], [MARGIN.left, width - MARGIN.right]);
        const y = scaleLinear([low, high], [HEIGHT - MARGIN.bottom, MARGIN.top]);
        const soil = area<Point>()
          .x((p) => x(p.x))
          .y0(y(low))
          .y1((p) => y(p.y));
        const path = line<Point>(
          (p) => x(p.x),
          (p) => y(p.y),
        );
        const zone = area<{ x: number; low: number; high: number }>()
          .x((p) => x(p.x))
          .y0((p) => y(p.low))
          .y1((p) => y(p.high));
        const beam = section.distance_m.flatMap((d, i) => {
          const [l, f] = [section.line_m[i], section.fresnel_m[i]];
          return l == null || f == null ? [] : [{ x: d, low: l - f, high: l + f }];
        });
        const end = Math.min(flight.distance_m, far);
        const ticks = y.ticks(5).filter((t) => t >= 0);
        const strongest = Math.max(...section.winds.map((w) => w.speed_ms), 0.1);
        return (
          <>
            <LeftAxis
              ticks={ticks}
              scale={y}
              x={MARGIN.left}
              name={(t) => numeral(t, "length", units)}
            />
            <BottomAxis
              y={HEIGHT - MARGIN.bottom}
              from={MARGIN.left}
              to={width - MARGIN.right}
              ticks={x.ticks(width > 500 ? 6 : 4).map((t) => ({
                at: x(t),
                name: `${numeral(t, "length", units)}${t === 0 ? ` ${unitName("length", units)}` : ""}`,
              }))}
            />
            {holes.map((h) => (
              <g key={h.from}>
                <rect
                  x={x(h.from)}
                  width={Math.max(x(h.to) - x(h.from), 2)}
                  y={MARGIN.top}
                  height={HEIGHT - MARGIN.bottom - MARGIN.top}
                  fill="var(--unknown)"
                  opacity="0.18"
                />
                <Label x={x((h.from + h.to) / 2)} y={HEIGHT - MARGIN.bottom - 8} anchor="middle">
                  not known
                </Label>
              </g>
            ))}
            {section.standing.map((s, i) => (
              <StandingMark key={i} standing={s} x={x} y={y} />
            ))}
            {groundRuns(surface).map((run, i) => (
              <path
                key={i}
                d={soil(run) ?? ""}
                fill="var(--ground)"
                stroke="var(--ground)"
                opacity="0.5"
              />
            ))}
            {groundRuns(ground).map((run, i) => (
              <path key={i} d={soil(run) ?? ""} fill="var(--ground)" opacity="0.85" />
            ))}
            {groundRuns(legal).map((run, i) => (
              <path key={i} d={path(run) ?? ""} {...LINE.forced} fill="none" />
            ))}
            {legal[0] && (
              <Label x={MARGIN.left + 60} y={y(legal[0].y) - 6} color="var(--stay)">
                {`${length(plan.minimums.legal_height_m)} above ground`}
              </Label>
            )}
            {section.winds.map(
              (w) =>
                w.height_m < high && (
                  <WindArrow
                    key={w.height_m}
                    x={MARGIN.left + 4}
                    y={y(w.height_m)}
                    length={10 + 34 * (w.speed_ms / strongest)}
                    // Along the cut: with it to the right, against it to the left.
                    with={Math.cos(((w.direction_deg + 180 - section.bearing_deg) * Math.PI) / 180)}
                  />
                ),
            )}
            {moves.map((m, i) => (
              <g key={`move${i}`}>
                <rect
                  x={x(m.from_m)}
                  width={Math.max(x(Math.min(m.to_m, far)) - x(m.from_m), 4)}
                  y={y(m.highest_m) - 4}
                  height={y(m.lowest_m) - y(m.highest_m) + 8}
                  rx="4"
                  fill="var(--care)"
                  fillOpacity="0.25"
                  stroke="var(--care)"
                  strokeWidth="2"
                />
                <Label x={x((m.from_m + m.to_m) / 2)} y={y(m.highest_m) - 9} anchor="middle">
                  {m.name}
                </Label>
              </g>
            ))}
            {along && (
              <>
                <path d={zone(beam) ?? ""} fill="var(--wind)" opacity="0.16" />
                <path
                  d={path([
                    { x: 0, y: 1.5 },
                    { x: end, y: flight.height_m },
                  ])!}
                  stroke="var(--wind)"
                  strokeWidth="1.5"
                  fill="none"
                />
                <path
                  d={path([
                    { x: 0, y: 0 },
                    { x: 0, y: flight.height_m },
                    { x: end, y: flight.height_m },
                  ])!}
                  {...LINE.main}
                />
                <path
                  d={path([
                    { x: end, y: flight.height_m },
                    { x: end, y: home },
                    { x: 0, y: home },
                  ])!}
                  {...LINE.main}
                  strokeDasharray="9 5"
                />
                <Label x={x(end * 0.5)} y={y(home) - 7} anchor="middle" color="var(--ink)" bold>
                  {`home at ${length(home)}`}
                </Label>
                <Grip
                  label="Return height"
                  x={x(end * 0.14)}
                  y={y(settings.rth_altitude_m)}
                  value={settings.rth_altitude_m}
                  words={length(settings.rth_altitude_m)}
                  toValue={(py) => y.invert(py)}
                  step={units.length === "ft" ? 5 / shown(1, "length", units) : 1}
                  onChange={onReturnHeight}
                />
                <Grip
                  label="Planned height"
                  x={x(end)}
                  y={y(flight.height_m)}
                  value={flight.height_m}
                  words={length(flight.height_m)}
                  toValue={(py) => y.invert(py)}
                  step={units.length === "ft" ? 5 / shown(1, "length", units) : 1}
                  onChange={onHeight}
                />
              </>
            )}
          </>
        );
      }}
    >
      <figcaption>
        <Typography variant="body2">
          {summary}
          {fallsBelow(section, flight.distance_m) < -1 &&
            ` The ground drops to ${length(fallsBelow(section, flight.distance_m))} below take-off along the route.`}
        </Typography>
      </figcaption>
    </Figure>
  );
}

/** The runs of points that follow each other without a hole. */
function groundRuns(points: Point[]): Point[][] {
  const runs: Point[][] = [];
  for (const p of points) {
    const run = runs.at(-1);
    const last = run?.at(-1);
    if (run && last && p.x - last.x < 7.5) run.push(p);
    else runs.push([p]);
  }
  return runs;
}

type Scale = (value: number) => number;

function StandingMark({ standing: s, x, y }: { standing: Standing; x: Scale; y: Scale }) {
  const middle = (s.from_m + s.to_m) / 2;
  const [left, right] = [x(s.from_m), x(s.to_m)];
  const [foot, top] = [y(s.foot_m), y(s.top_m)];
  if (s.kind === "trees") {
    // A wood's outline, saw-toothed, so that it is told from a building without colour.
    const teeth = Math.max(1, Math.round((right - left) / 9));
    const w = Math.max(right - left, 8) / teeth;
    const start = (left + right) / 2 - (w * teeth) / 2;
    const edge = Array.from(
      { length: teeth },
      (_, i) =>
        `L${start + (i + 0.5) * w} ${top}L${start + (i + 1) * w} ${top + (foot - top) * 0.3}`,
    ).join("");
    return (
      <path
        d={`M${start} ${foot}L${start} ${top + (foot - top) * 0.3}${edge}L${start + w * teeth} ${foot}z`}
        fill="var(--ground)"
        stroke="var(--ground)"
        opacity={s.loosely ? 0.35 : 0.7}
      />
    );
  }
  if (s.kind === "wires") {
    return (
      <g stroke="var(--stay)" strokeWidth="2" fill="none" opacity={s.loosely ? 0.5 : 1}>
        <line x1={x(middle)} x2={x(middle)} y1={foot} y2={top} strokeDasharray="2 3" />
        <line x1={x(middle) - 7} x2={x(middle) + 7} y1={top} y2={top} />
      </g>
    );
  }
  const width = s.kind === "building" ? Math.max(right - left, 6) : 6;
  return (
    <rect
      x={(left + right) / 2 - width / 2}
      width={width}
      y={top}
      height={Math.max(foot - top, 1)}
      fill="var(--ink)"
      opacity={s.loosely ? 0.35 : 0.75}
    />
  );
}

function WindArrow({
  x,
  y,
  length,
  with: along,
}: {
  x: number;
  y: number;
  length: number;
  with: number;
}) {
  const reach = length * Math.max(Math.abs(along), 0.2) * (along < 0 ? -1 : 1);
  const [from, to] = reach < 0 ? [x - reach, x] : [x, x + reach];
  const back = reach < 0 ? 6 : -6;
  return (
    <g stroke="var(--wind)" strokeWidth="2.5" fill="none" strokeLinecap="round">
      <path d={`M${from} ${y}L${to} ${y}M${to + back} ${y - 4}L${to} ${y}L${to + back} ${y + 4}`} />
    </g>
  );
}

/** What a height is dragged by; the arrow keys move it too. */
function Grip({
  label,
  x,
  y,
  value,
  words,
  step,
  toValue,
  onChange,
}: {
  label: string;
  x: number;
  y: number;
  value: number;
  words: string;
  step: number;
  toValue: (y: number) => number;
  onChange: (metres: number) => void;
}) {
  const held = useRef(false);
  const put = (metres: number) =>
    onChange(Math.min(500, Math.max(2, Math.round(metres / step) * step)));
  const move = (e: PointerEvent<SVGGElement>) => {
    if (!held.current) return;
    const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
    put(toValue(e.clientY - box.top));
  };
  const key = (e: KeyboardEvent) => {
    const by = { ArrowUp: step, ArrowDown: -step, PageUp: 10, PageDown: -10 }[e.key];
    if (by === undefined) return;
    e.preventDefault();
    put(value + by);
  };
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-orientation="vertical"
      aria-valuenow={Math.round(value)}
      aria-valuemin={2}
      aria-valuemax={500}
      aria-valuetext={words}
      style={{ cursor: "ns-resize", touchAction: "none" }}
      onPointerDown={(e) => {
        held.current = true;
        e.currentTarget.setPointerCapture(e.pointerId);
      }}
      onPointerMove={move}
      onPointerUp={() => (held.current = false)}
      onPointerCancel={() => (held.current = false)}
      onKeyDown={key}
    >
      <rect x={x - 24} y={y - 24} width={48} height={48} fill="transparent" />
      <circle cx={x} cy={y} r={9} fill="var(--card)" stroke="var(--ink)" strokeWidth="3" />
      <path
        d={`M${x - 3.5} ${y - 1.5}l3.5 -4l3.5 4M${x - 3.5} ${y + 1.5}l3.5 4l3.5 -4`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
    </g>
  );
}
