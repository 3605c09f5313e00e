import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { BottomAxis, Figure, Label, LeftAxis, type Margin } from "../drawings/kit";
import { useUnits } from "../shell/preferences";
import { numeral, unitName, written } from "../units/units";
import { deckAt, fogTopM, type HomeFlight, type Sheet } from "./tables";
import type { Where } from "./useFlying";

/** Where a flight went: from the side along its bearing, and from above. */

const TRACK = {
  fill: "none",
  stroke: "var(--ink)",
  strokeWidth: 2.5,
  strokeLinejoin: "round" as const,
};
const BETTER = { ...TRACK, stroke: "var(--wind)", strokeDasharray: "7 4" };
const GROUND: Record<Sheet["bands"][number]["ground"], string> = {
  open: "var(--muted)",
  trees: "var(--ground)",
  water: "var(--wind)",
};
const MARGIN: Margin = { top: 18, right: 12, bottom: 28, left: 46 };
const TOP_M = 130;

interface Of {
  home: HomeFlight;
  track: readonly Where[];
  /** Another way of flying it, to compare with. */
  better?: readonly Where[];
  /** Where it is, or was last seen. */
  at: Where;
  faded?: boolean;
}

function alongOf({ sheet }: HomeFlight) {
  const far = Math.max(Math.hypot(sheet.far_x, sheet.far_y), 1);
  return (x: number, y: number) => (x * sheet.far_x + y * sheet.far_y) / far;
}

export function FromTheSide({
  home,
  track,
  better,
  at,
  faded = false,
  height = 190,
}: Of & { height?: number }) {
  const units = useUnits();
  const along = alongOf(home);
  const { sheet, mishap } = home;
  const far = along(sheet.far_x, sheet.far_y);
  const flown = [...track, ...(better ?? []), at].map((p) => along(p.x, p.y));
  const [low, high] = [Math.min(-30, ...flown), Math.max(far * 1.08, ...flown)];
  const fog = Math.min(fogTopM(mishap, at.at_s), TOP_M);
  return (
    <Figure
      height={height}
      label={`From the side: ${written(at.z, "length", units)} up, ${written(along(at.x, at.y), "length", units)} out.`}
      draw={(width) => {
        const x = scaleLinear([low, high], [MARGIN.left, width - MARGIN.right]);
        const y = scaleLinear([0, TOP_M], [height - MARGIN.bottom, MARGIN.top]);
        const path = line<Where>(
          (p) => x(along(p.x, p.y)),
          (p) => y(Math.min(p.z, TOP_M)),
        );
        return (
          <>
            {fog > 0 && (
              <rect
                x={x(low)}
                width={x(high) - x(low)}
                y={y(fog)}
                height={y(0) - y(fog)}
                fill="var(--muted)"
                opacity="0.35"
              />
            )}
            {sheet.bands.map((band) => (
              <rect
                key={band.from_m}
                x={x(Math.max(band.from_m, low))}
                width={Math.max(
                  x(Math.min(band.to_m ?? high, high)) - x(Math.max(band.from_m, low)),
                  0,
                )}
                y={y(0)}
                height="6"
                fill={GROUND[band.ground]}
              />
            ))}
            {sheet.stands.map((stands) => {
              const [a, b] = stands.ends.map(([sx, sy]) => along(sx!, sy!)) as [number, number];
              return (
                <rect
                  key={`${a}${stands.top_m}`}
                  x={x(Math.min(a, b)) - 2}
                  width={Math.max(x(Math.max(a, b)) - x(Math.min(a, b)), 0) + 4}
                  y={y(stands.top_m)}
                  height={y(0) - y(stands.top_m)}
                  fill="var(--ground)"
                  opacity="0.55"
                />
              );
            })}
            <line
              x1={x(low)}
              x2={x(high)}
              y1={y(sheet.return_height_m)}
              y2={y(sheet.return_height_m)}
              stroke="var(--muted)"
              strokeDasharray="3 4"
            />
            <Label x={x(far * 0.12)} y={y(sheet.return_height_m) - 6} size={12}>
              return height
            </Label>
            {better && <path d={path(better) ?? ""} {...BETTER} />}
            <path d={path(track) ?? ""} {...TRACK} />
            <Aircraft x={x(along(at.x, at.y))} y={y(Math.min(at.z, TOP_M))} faded={faded} />
            <LeftAxis
              x={MARGIN.left}
              scale={y}
              ticks={[0, 40, 80, 120]}
              name={(v) => numeral(v, "length", units, 0)}
            />
            <BottomAxis
              y={y(0) + 6}
              from={x(low)}
              to={x(high)}
              ticks={x.ticks(width < 500 ? 4 : 7).map((v) => ({
                at: x(v),
                name: v === 0 ? "home" : `${numeral(v, "length", units, 0)}`,
              }))}
            />
            <Label x={4} y={12} size={12}>
              {unitName("length", units)}
            </Label>
          </>
        );
      }}
    />
  );
}

function Aircraft({ x, y, faded }: { x: number; y: number; faded: boolean }) {
  return (
    <circle
      cx={x}
      cy={y}
      r="6"
      fill={faded ? "var(--card)" : "var(--ink)"}
      stroke="var(--ink)"
      strokeWidth="2"
      strokeDasharray={faded ? "2 2" : undefined}
    />
  );
}

const PLAN_HEIGHT = 236;
/** Room above for the wind’s arrow. */
const ARROW = 36;

export function FromAbove({ home, track, better, at, faded = false }: Of) {
  const units = useUnits();
  const { sheet, mishap } = home;
  const deck = deckAt(mishap, at.at_s);
  const points: { x: number; y: number }[] = [
    ...track,
    ...(better ?? []),
    { x: 0, y: 0 },
    { x: sheet.far_x, y: sheet.far_y },
    { x: deck[0], y: deck[1] },
  ];
  const [x0, x1] = [Math.min(...points.map((p) => p.x)), Math.max(...points.map((p) => p.x))];
  const [y0, y1] = [Math.min(...points.map((p) => p.y)), Math.max(...points.map((p) => p.y))];
  return (
    <Figure
      height={PLAN_HEIGHT}
      label={`From above, north up: ${written(Math.hypot(at.x - deck[0], at.y - deck[1]), "length", units)} from you.`}
      draw={(width) => {
        const room = Math.max((x1 - x0) / (width - 60), (y1 - y0) / (PLAN_HEIGHT - 90), 0.3);
        const x = (v: number) => width / 2 + (v - (x0 + x1) / 2) / room;
        const y = (v: number) => PLAN_HEIGHT / 2 + ARROW / 2 - (v - (y0 + y1) / 2) / room;
        const path = line<Where>(
          (p) => x(p.x),
          (p) => y(p.y),
        );
        const towards = ((home.wind_from_deg + 180) * Math.PI) / 180;
        return (
          <>
            {sheet.stands.map((stands) => {
              const [[ax, ay], [bx, by]] = stands.ends as [[number, number], [number, number]];
              return (
                <line
                  key={`${ax}${ay}`}
                  x1={x(ax)}
                  y1={y(ay)}
                  x2={x(bx)}
                  y2={y(by)}
                  stroke="var(--ground)"
                  strokeWidth={Math.max(10 / room, 5)}
                  strokeLinecap="round"
                  opacity="0.55"
                />
              );
            })}
            {better && <path d={path(better) ?? ""} {...BETTER} />}
            <path d={path(track) ?? ""} {...TRACK} />
            <circle cx={x(0)} cy={y(0)} r="5" fill="none" stroke="var(--ink)" strokeWidth="2" />
            <Label x={x(0) + 9} y={y(0) + 4} size={12}>
              home point
            </Label>
            {Math.hypot(...deck) > 10 && (
              <>
                <rect
                  x={x(deck[0]) - 5}
                  y={y(deck[1]) - 5}
                  width="10"
                  height="10"
                  fill="var(--care)"
                />
                <Label x={x(deck[0]) + 9} y={y(deck[1]) + 4} size={12}>
                  you
                </Label>
              </>
            )}
            <Aircraft x={x(at.x)} y={y(at.y)} faded={faded} />
            <g transform={`translate(26, 26) rotate(${(towards * 180) / Math.PI})`}>
              <path
                d="M0,14 L0,-12 M-5,-5 L0,-12 L5,-5"
                stroke="var(--ink)"
                strokeWidth="2"
                fill="none"
              />
            </g>
            <Label x={46} y={30} size={12}>
              {`wind ${written(home.wind_ms, "speed", units)} by the forecast; north is up`}
            </Label>
          </>
        );
      }}
    />
  );
}
