import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useState } from "react";
import type { FamilyNow, Room } from "../api/practice";
import { BottomAxis, Figure, Label, LeftAxis, LINE, type Margin } from "../drawings/kit";
import { Panel } from "../shell/Panel";
import { daysBetween, goingOver, LATEST, type Answered, type Going } from "./overTime";
import { TONES } from "./words";

const HEIGHT = 204;
const MARGIN: Margin = { top: 32, right: 16, bottom: 26, left: 40 };
const MOST = 12;
const ALL = "all";

/** How practice goes over time: what each answer cost, and the mean of the latest, of one family or of all. */
export function OverTime({ room }: { room: Room }) {
  const begun = room.families.filter((family) => family.points.length > 0);
  const [chosen, setChosen] = useState(ALL);
  if (begun.length === 0) return null;
  const family = begun.find(({ key }) => key === chosen);
  const points = (family ? [family] : begun).flatMap((f: FamilyNow) => f.points);
  return (
    <Panel title="Over time" hint="0 is best">
      <TextField
        select
        label="Family"
        value={family ? chosen : ALL}
        onChange={(event) => setChosen(event.target.value)}
        sx={{ minWidth: 220, mb: 1 }}
      >
        <MenuItem value={ALL}>All</MenuItem>
        {begun.map(({ key, name }) => (
          <MenuItem key={key} value={key}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <Chart points={points} name={family?.name ?? "All families"} />
      <Typography variant="body2" color="text.secondary">
        Each dot is an answer and what it cost; the line is the mean of the latest {LATEST}.
      </Typography>
    </Panel>
  );
}

const day = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });

function Chart({ points, name }: { points: readonly Answered[]; name: string }) {
  const going = goingOver(points);
  const [first, last] = [going[0]!, going.at(-1)!];
  const label =
    going.length === 1
      ? `${name}: one answer, which cost ${last.cost.toFixed(1)}.`
      : `${name}: ${going.length} answers. Mean cost of the latest ${LATEST} ${first.cost.toFixed(1)} at first, ${last.cost.toFixed(1)} now.`;
  return (
    <Figure
      height={HEIGHT}
      label={label}
      draw={(width) => {
        // An hour at either end, so that one day's answers are not a wall.
        const [from, to] = [first.at - 3_600_000, last.at + 3_600_000];
        const x = scaleLinear([from, to], [MARGIN.left, width - MARGIN.right]);
        const y = scaleLinear([0, MOST], [HEIGHT - MARGIN.bottom, MARGIN.top]).clamp(true);
        const path = line<Going>(
          (p) => x(p.at),
          (p) => y(p.cost),
        );
        const begun = daysBetween(from, to, width < 500 ? 4 : 8).filter((at) => at >= from);
        // Answers of one day alone: it is named under the last of them.
        const days = begun.length > 0 ? begun : [last.at];
        return (
          <>
            <LeftAxis ticks={[0, 4, 8, 12]} scale={y} x={MARGIN.left} name={String} />
            <Label x={4} y={12}>
              cost
            </Label>
            <path d={path(going) ?? ""} {...LINE.main} />
            {points.map((p, n) => (
              <circle
                key={`${p.at}${n}`}
                cx={x(Date.parse(p.at))}
                cy={y(p.cost)}
                r="4.5"
                fill={TONES[p.grade]}
                stroke="var(--card)"
                strokeWidth="1"
              />
            ))}
            <BottomAxis
              y={HEIGHT - MARGIN.bottom}
              from={MARGIN.left}
              to={width - MARGIN.right}
              ticks={days.map((at) => ({ at: x(at), name: day.format(at) }))}
            />
          </>
        );
      }}
    />
  );
}
