import type { Ready } from "../../api/client";
import { Figure, Label } from "../../drawings/kit";

type Flight = NonNullable<Ready["filming"]>["flights"][number];

/** About how wide "lands with 53%" is [px]. */
const LANDS_WIDTH = 108;
const TOP = 6;
const BAR = 26;
const HEIGHT = TOP + BAR + 20;

/** A pack from full on the left to empty on the right: filming dark, the way light, the reserve at the end. */
export function FlightStrip({
  flight,
  reserve,
  name,
}: {
  flight: Flight;
  reserve: number;
  name: (shot: number | null) => string;
}) {
  if (flight.steps.length === 0) return null;
  const filmed = flight.shots.map((s) => name(s)).join(", ");
  return (
    <Figure
      height={HEIGHT}
      label={`Battery ${flight.label} films ${filmed} and lands with ${Math.round(flight.landing_pct)}%.`}
      draw={(width) => {
        const x = (charge: number) => ((100 - Math.max(charge, 0)) / 100) * (width - 2) + 1;
        let from = flight.charge_pct;
        const landing = Math.min(x(flight.landing_pct), x(reserve));
        return (
          <>
            <rect
              x={x(100)}
              y={TOP}
              width={x(0) - x(100)}
              height={BAR}
              fill="none"
              stroke="var(--muted)"
            />
            <rect
              x={x(reserve)}
              y={TOP}
              width={x(0) - x(reserve)}
              height={BAR}
              fill="var(--care)"
              fillOpacity="0.16"
            />
            {flight.steps.map((step, i) => {
              const left = x(from);
              const right = x(step.charge_after_pct);
              from = step.charge_after_pct;
              const film = step.what === "film";
              return (
                <g key={i}>
                  <rect
                    x={left}
                    y={TOP}
                    width={Math.max(right - left, 0)}
                    height={BAR}
                    fill={film ? "var(--ground)" : "var(--wind)"}
                    fillOpacity={film ? 0.85 : 0.3}
                    stroke="var(--card)"
                  />
                  {film && right - left > 22 && (
                    <text
                      x={(left + right) / 2}
                      y={TOP + BAR / 2 + 5}
                      textAnchor="middle"
                      fill="var(--card)"
                      fontSize="13"
                      fontWeight="700"
                    >
                      {fitting(name(step.shot), right - left - 8)}
                    </text>
                  )}
                </g>
              );
            })}
            <line
              x1={x(reserve)}
              x2={x(reserve)}
              y1={TOP - 5}
              y2={TOP + BAR + 5}
              stroke="var(--care)"
              strokeWidth="2.5"
            />
            {width - x(reserve) > 64 && (
              <Label x={x(reserve) + 3} y={HEIGHT - 4} color="var(--care)">
                {reserve}% kept
              </Label>
            )}
            {landing > LANDS_WIDTH + 50 && (
              <Label x={x(100)} y={HEIGHT - 4}>
                {Math.round(flight.charge_pct)}%
              </Label>
            )}
            <Label
              x={Math.max(landing - 4, LANDS_WIDTH)}
              y={HEIGHT - 4}
              anchor="end"
              bold
              color="var(--ink)"
            >
              lands with {Math.round(flight.landing_pct)}%
            </Label>
          </>
        );
      }}
    />
  );
}

/** As much of a name as there is room for, at about 7 px a letter. */
function fitting(name: string, room: number): string {
  const letters = Math.floor(room / 7);
  return name.length <= letters ? name : letters < 3 ? "" : `${name.slice(0, letters - 1)}…`;
}
