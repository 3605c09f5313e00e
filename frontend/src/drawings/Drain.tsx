import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import type { Airborne, FlightCard } from "../api/client";
import { clockState, type Moment, type Reading } from "../flight/clock";
import { BottomAxis, Figure, Label, LeftAxis, LINE } from "./kit";

const HEIGHT = 210;
const MARGIN = { top: 18, right: 12, bottom: 26, left: 46 };
const STEPS = 48;

/** Is this pack behaving? Charge predicted and charge read over time, for this flight and the pack's history. */
export function Drain({
  card,
  moment,
  landed,
  history = [],
}: {
  card: FlightCard;
  moment: Moment;
  landed?: Reading;
  history?: Airborne["history"];
}) {
  const readings = landed ? [...moment.readings, landed] : moment.readings;
  const end = Math.max(moment.at_s, 240, ...readings.map((r) => r.at_s)) * 1.15;
  const blind: Moment = { ...moment, readings: [], hopeful: false };
  const along = Array.from({ length: STEPS + 1 }, (_, n) => {
    const at_s = (end * n) / STEPS;
    const turned_s = moment.turned_s !== null && at_s > moment.turned_s ? moment.turned_s : null;
    return { at_s, ...clockState(card, { ...blind, at_s, turned_s }) };
  });
  const last = readings.at(-1);
  const under = last && last.charge_pct < clockState(card, { ...blind, at_s: last.at_s }).low_pct;
  const words = last
    ? `Last read ${Math.round(last.charge_pct)}%, ${under ? "under" : "within"} the predicted range.`
    : "Nothing read yet.";
  return (
    <Figure
      height={HEIGHT}
      label={`Charge over time, predicted and read. ${words}`}
      draw={(width) => {
        const x = scaleLinear([0, end], [MARGIN.left, width - MARGIN.right]);
        const y = scaleLinear([0, 100], [HEIGHT - MARGIN.bottom, MARGIN.top]);
        const band = area<(typeof along)[number]>()
          .x((p) => x(p.at_s))
          .y0((p) => y(p.low_pct))
          .y1((p) => y(p.high_pct));
        const predicted = line<(typeof along)[number]>(
          (p) => x(p.at_s),
          (p) => y(p.predicted_pct),
        );
        const read = line<Reading>(
          (p) => x(p.at_s),
          (p) => y(p.charge_pct),
        );
        const minutes = Math.floor(end / 60);
        const step = minutes > 12 ? 5 : minutes > 5 ? 2 : 1;
        const ticks = Array.from({ length: Math.floor(minutes / step) + 1 }, (_, n) => n * step);
        const turn = clockState(card, moment).turn_back_pct;
        return (
          <>
            <LeftAxis ticks={[0, 50, 100]} scale={y} x={MARGIN.left} name={(t) => `${t}%`} />
            <BottomAxis
              y={y(0)}
              from={MARGIN.left}
              to={width - MARGIN.right}
              ticks={ticks.map((t) => ({ at: x(t * 60), name: t === 0 ? "0 min" : String(t) }))}
            />
            <path d={band(along) ?? ""} fill="var(--wind)" opacity="0.18" />
            {history.map((h, n) => (
              <line
                key={n}
                x1={x(0)}
                y1={y(h.from_pct)}
                x2={x(Math.min(h.seconds, end))}
                y2={y(h.from_pct + (h.to_pct - h.from_pct) * Math.min(1, end / h.seconds))}
                {...LINE.other}
                opacity="0.7"
              />
            ))}
            <line
              x1={MARGIN.left}
              x2={width - MARGIN.right}
              y1={y(card.reserve_pct)}
              y2={y(card.reserve_pct)}
              {...LINE.reserve}
            />
            <Label x={MARGIN.left + 6} y={y(card.reserve_pct) + 15} color="var(--care)">
              {`land with ${Math.round(card.reserve_pct)}%`}
            </Label>
            {turn !== null && moment.turned_s === null && !landed && (
              <>
                <line
                  x1={MARGIN.left}
                  x2={width - MARGIN.right}
                  y1={y(turn)}
                  y2={y(turn)}
                  stroke="var(--stay)"
                  strokeWidth="2"
                />
                <Label
                  x={width - MARGIN.right - 4}
                  y={y(turn) - 6}
                  anchor="end"
                  color="var(--stay)"
                  bold
                >
                  {`turn back ${Math.ceil(turn)}%`}
                </Label>
              </>
            )}
            <path d={predicted(along) ?? ""} {...LINE.main} strokeDasharray="6 4" strokeWidth={2} />
            {readings.length > 0 && (
              <path
                d={read([{ at_s: 0, charge_pct: card.charge_pct }, ...readings]) ?? ""}
                {...LINE.main}
              />
            )}
            {readings.map((r) => (
              <rect
                key={r.at_s}
                x={x(r.at_s) - 5}
                y={y(r.charge_pct) - 5}
                width="10"
                height="10"
                fill="var(--ink)"
                stroke="var(--card)"
                strokeWidth="2"
                transform={`rotate(45 ${x(r.at_s)} ${y(r.charge_pct)})`}
              />
            ))}
          </>
        );
      }}
    >
      <figcaption style={{ fontSize: ".85rem", color: "var(--muted)" }}>
        Dashed: predicted, with its band. Diamonds: read.
        {history.length > 0 && " Dotted: this battery's earlier flights."} {words}
      </figcaption>
    </Figure>
  );
}
