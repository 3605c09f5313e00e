import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { FlightTrack, Plan, Section } from "../api/client";
import { BottomAxis, Figure, Label, LeftAxis, LINE } from "../drawings/kit";
import { pointsOf, type Point } from "../drawings/section";
import { useUnits } from "../shell/preferences";
import { numeral, unitName, written } from "../units/units";
import { againstPlan } from "./words";

const TRACK = {
  stroke: "var(--ink)",
  strokeWidth: 2,
  fill: "none",
  strokeLinejoin: "round" as const,
};

const rad = (deg: number) => (deg * Math.PI) / 180;

/** Where it went, seen from above, where no place is drawn, beside where it was planned to go. */
export function TrackPlan({ track, plan }: { track: FlightTrack; plan: Plan | null }) {
  const units = useUnits();
  const { east_m, north_m } = track.drawn;
  const leg = plan && {
    x: plan.flight.distance_m * Math.sin(rad(plan.flight.bearing_deg)),
    y: plan.flight.distance_m * Math.cos(rad(plan.flight.bearing_deg)),
  };
  const words = againstPlan(track.facts, plan, units);
  return (
    <Figure
      height={300}
      label={`The track from above. ${words}`}
      draw={(width) => {
        const xs = [...east_m, leg?.x ?? 0, 0];
        const ys = [...north_m, leg?.y ?? 0, 0];
        const [x0, x1] = [Math.min(...xs), Math.max(...xs)];
        const [y0, y1] = [Math.min(...ys), Math.max(...ys)];
        const across = Math.max((x1 - x0) / (width - 60), (y1 - y0) / 240, 0.05);
        const x = (e: number) => width / 2 + (e - (x0 + x1) / 2) / across;
        const y = (n: number) => 150 - (n - (y0 + y1) / 2) / across;
        const nice = [10, 20, 50, 100, 200, 500, 1000, 2000].find((m) => m / across > 60) ?? 5000;
        const path = line<number>(
          (i) => x(east_m[i]!),
          (i) => y(north_m[i]!),
        );
        return (
          <>
            <rect width={width} height={300} rx="10" fill="var(--land)" />
            {leg && (
              <>
                <line
                  x1={x(0)}
                  y1={y(0)}
                  x2={x(leg.x)}
                  y2={y(leg.y)}
                  {...LINE.other}
                  strokeWidth={2.5}
                />
                <circle
                  cx={x(leg.x)}
                  cy={y(leg.y)}
                  r="5"
                  fill="var(--card)"
                  stroke="var(--muted)"
                />
                <Label
                  x={x(leg.x) + (leg.x > 0 ? -10 : 10)}
                  y={y(leg.y) + 18}
                  anchor={leg.x > 0 ? "end" : "start"}
                >
                  planned
                </Label>
              </>
            )}
            <path d={path(east_m.map((_, i) => i)) ?? ""} {...TRACK} />
            <rect x={x(0) - 6} y={y(0) - 6} width="12" height="12" fill="var(--ink)" />
            <Label x={x(0) + 10} y={y(0) + 16} bold color="var(--ink)">
              take-off
            </Label>
            <line
              x1={14}
              x2={14 + nice / across}
              y1={284}
              y2={284}
              stroke="var(--ink)"
              strokeWidth="3"
            />
            <Label x={14} y={276}>
              {written(nice, "length", units)}
            </Label>
            <Label x={width - 14} y={20} anchor="end">
              ↑ north
            </Label>
          </>
        );
      }}
    >
      <figcaption style={{ fontSize: ".85rem", color: "var(--muted)" }}>{words}</figcaption>
    </Figure>
  );
}

/** How high it went, beside the heights that were planned, over the land along the bearing. */
export function TrackSection({
  track,
  plan,
  section,
}: {
  track: FlightTrack;
  plan: Plan | null;
  section?: Section;
}) {
  const units = useUnits();
  const { distance_m, height_m } = track.drawn;
  const known = distance_m.flatMap((x, i) => (height_m[i] == null ? [] : [{ x, y: height_m[i] }]));
  const { return_height_m: flown } = track.facts;
  const set = plan?.settings.rth_altitude_m;
  const words =
    flown == null
      ? "The file has no heights on the flight home."
      : `Flew home at ${written(flown, "length", units)}` +
        (set == null ? "." : `, set to ${written(set, "length", units)}.`);
  if (known.length === 0) return <p>{words}</p>;
  return (
    <Figure
      height={250}
      label={`The track in section. ${words}`}
      draw={(width) => {
        const ground = section ? pointsOf(section, "ground_m") : [];
        const far = Math.max(...distance_m, plan?.flight.distance_m ?? 0, 20);
        const near = (p: { x: number }) => p.x <= far;
        const standing = section?.standing.filter((s) => s.from_m <= far) ?? [];
        const high = Math.max(
          ...known.map((p) => p.y),
          set ?? 0,
          plan?.flight.height_m ?? 0,
          ...standing.map((s) => s.top_m),
        );
        const low = Math.min(0, ...ground.filter(near).map((p) => p.y), ...known.map((p) => p.y));
        const x = scaleLinear([0, far * 1.05], [46, width - 12]);
        const y = scaleLinear([low - 4, high * 1.15 + 5], [222, 16]);
        const soil = area<Point>()
          .x((p) => x(p.x))
          .y0(222)
          .y1((p) => y(p.y));
        const path = line<Point>(
          (p) => x(p.x),
          (p) => y(p.y),
        );
        const level = (h: number, name: string, dashed: boolean) => (
          <>
            <line
              x1={46}
              x2={width - 12}
              y1={y(h)}
              y2={y(h)}
              {...(dashed ? LINE.other : LINE.reserve)}
            />
            <Label x={width - 14} y={y(h) - 5} anchor="end">
              {name}
            </Label>
          </>
        );
        return (
          <>
            <LeftAxis
              ticks={y.ticks(4)}
              scale={y}
              x={46}
              name={(t) => numeral(t, "length", units)}
            />
            {ground.length > 1 && (
              <path d={soil(ground.filter(near)) ?? ""} fill="var(--ground)" opacity="0.45" />
            )}
            {standing.map((s, n) => (
              <rect
                key={n}
                x={x(s.from_m)}
                width={Math.max(x(Math.min(s.to_m, far)) - x(s.from_m), 3)}
                y={y(s.top_m)}
                height={Math.max(y(0) - y(s.top_m), 1)}
                fill="var(--ground)"
              />
            ))}
            {plan && level(plan.flight.height_m, "planned height", true)}
            {set != null && level(set, "return height as set", false)}
            <path d={path(known) ?? ""} {...TRACK} />
            <BottomAxis
              y={222}
              from={46}
              to={width - 12}
              ticks={x.ticks(4).map((t) => ({
                at: x(t),
                name: t === 0 ? unitName("length", units) : numeral(t, "length", units),
              }))}
            />
          </>
        );
      }}
    >
      <figcaption style={{ fontSize: ".85rem", color: "var(--muted)" }}>{words}</figcaption>
    </Figure>
  );
}
