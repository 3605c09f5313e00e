import type { PlaceSummary } from "../api/client";
import { ROLES } from "../map/roles";

const SIZE = 96;
const EDGE = 8;
/** Nothing is drawn larger than this many metres across, so that one tree does not fill it. */
const LEAST_M = 120;

/** A place as a small drawing, north up: water, obstacles, people, spots. Empty where nothing is drawn. */
export function PlaceSketch({ sketch }: { sketch: PlaceSummary["sketch"] }) {
  const reach = Math.max(LEAST_M / 2, ...sketch.flatMap((s) => s.points.flat().map(Math.abs)));
  const scale = (SIZE / 2 - EDGE) / reach;
  const at = ([x = 0, y = 0]: number[]) =>
    `${(SIZE / 2 + x * scale).toFixed(1)},${(SIZE / 2 - y * scale).toFixed(1)}`;
  return (
    <svg
      width={SIZE}
      height={SIZE}
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      aria-hidden="true"
      style={{ background: "var(--land)", borderRadius: 10, flexShrink: 0, display: "block" }}
    >
      {sketch.map(({ role, shape, points }, i) => {
        const { tone } = ROLES[role];
        const corners = points.map(at).join(" ");
        if (shape === "area")
          return <polygon key={i} points={corners} fill={tone} fillOpacity="0.45" stroke={tone} />;
        if (shape === "line")
          return <polyline key={i} points={corners} fill="none" stroke={tone} strokeWidth="2" />;
        const [x, y] = corners.split(",");
        return role === "takeoff" ? (
          <circle key={i} cx={x} cy={y} r="4" fill="var(--card)" stroke={tone} strokeWidth="2.5" />
        ) : (
          <circle key={i} cx={x} cy={y} r="3" fill={tone} />
        );
      })}
    </svg>
  );
}
