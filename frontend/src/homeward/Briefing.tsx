import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useMemo, useState } from "react";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { bearing, written, type Units } from "../units/units";
import { FromTheSide } from "./Drawn";
import type { UnderWay } from "./kept";
import type { HomeFlight, Sheet } from "./tables";
import { takenOver } from "./useFlying";
import { clock } from "./words";

export const SPEEDS = [4, 8, 16];
const USUAL = 8;

const LOST: Record<Sheet["lost_link"], string> = {
  return: "return to home",
  hover: "hover",
  land: "land where it is",
};

const UNDER = { open: "open ground", trees: "trees", water: "water" };

/** What the flight flies over, band by band. */
function underIt({ bands }: Sheet, units: Units): string {
  const sorted = [...bands].sort((a, b) => a.from_m - b.from_m);
  // Two bands of the same ground, one after the other, are one.
  const joined = sorted.reduce<Sheet["bands"]>((all, band) => {
    const last = all.at(-1);
    if (last?.ground !== band.ground || last.to_m !== band.from_m) return [...all, band];
    return [...all.slice(0, -1), { ...last, to_m: band.to_m }];
  }, []);
  const told = joined.map(({ from_m, to_m, ground }) => {
    const from = written(from_m, "length", units);
    if (to_m === null)
      return from_m === 0 ? `${UNDER[ground]} all round` : `${UNDER[ground]} from ${from} on`;
    return `${UNDER[ground]} from ${from} to ${written(to_m, "length", units)}`;
  });
  return told.join("; ");
}

/** The flight as its pilot takes it over. */
export function Briefing({
  home,
  left,
  start,
}: {
  home: HomeFlight;
  /** Where it was left in the air, on a page that was closed. */
  left: UnderWay | null;
  start: (speed: number, goesOn: boolean) => void;
}) {
  const units = useUnits();
  const [speed, setSpeed] = useState(USUAL);
  const { flying, track } = useMemo(() => takenOver(home), [home]);
  const { sheet } = home;
  const out = Math.hypot(flying.x, flying.y);
  const lines = [
    `${home.site}. ${home.place}`,
    `You take over ${clock(flying.at_s)} into the flight: ${home.own ? "your" : "a usual light aircraft,"} ${home.aircraft}${home.own ? "" : ","} is ${written(out, "length", units)} out towards ${bearing(Math.atan2(sheet.far_x, sheet.far_y) * (180 / Math.PI))} and ${written(flying.z, "length", units)} up, with ${Math.round(flying.charge_pct)}% charge. An observer watches it.`,
    `By the plan it films until ${clock(home.turn_s)}, turns back at ${home.turn_back_pct === null ? "–" : `${Math.ceil(home.turn_back_pct)}% at the latest`}, and comes home ${sheet.return_mode === "rth" ? "by return to home" : "flown manually"}. Your reserve is ${home.reserve_pct}%.`,
    `Forecast: wind ${written(home.wind_ms, "speed", units)} from ${bearing(home.wind_from_deg)} at flying height.`,
    `Return height ${written(sheet.return_height_m, "length", units)}. Lost-link action: ${LOST[sheet.lost_link]}. Below: ${underIt(sheet, units)}.`,
  ];
  return (
    <Panel title={`Flight ${home.seed}`} hint="a minute or two">
      {lines.map((text) => (
        <Typography key={text} sx={{ mb: 0.5 }}>
          {text}
        </Typography>
      ))}
      <FromTheSide home={home} track={track} at={flying} />
      <Typography sx={{ mt: 1 }}>
        Something may go wrong. Act when you think it’s time; without a word from you it films until
        the battery is low. Nobody hurries you: it can be slowed, and stopped, at any moment.
      </Typography>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1.5, flexWrap: "wrap", my: 1 }}>
        <Typography id="speed">Faster than in the air</Typography>
        <ToggleButtonGroup
          exclusive
          aria-labelledby="speed"
          value={speed}
          onChange={(_, value: number | null) => value !== null && setSpeed(value)}
        >
          {SPEEDS.map((value) => (
            <ToggleButton key={value} value={value} sx={{ minHeight: 48, px: 2 }}>
              {value} times
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </Box>
      {left && (
        <Button
          variant="contained"
          fullWidth
          sx={{ minHeight: 56, mb: 1 }}
          onClick={() => start(speed, true)}
        >
          Go on at {clock(left.at_s)}
        </Button>
      )}
      <Button
        variant={left ? "outlined" : "contained"}
        fullWidth
        sx={{ minHeight: 56 }}
        onClick={() => start(speed, false)}
      >
        {left ? "Take over from the beginning" : "Take over"}
      </Button>
    </Panel>
  );
}
