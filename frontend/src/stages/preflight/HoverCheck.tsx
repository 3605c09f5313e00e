import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import type { Plan, Result } from "../../api/client";
import { useDevices } from "../../api/site";
import type { Change } from "../../editing/change";
import { useUnits } from "../../shell/preferences";
import { bearing, written } from "../../units/units";
import { LeanDialog } from "../plan/inputs/LeanDialog";
import { readingLike } from "../plan/inputs/ReadingMenu";

const LOOK_FOR = [
  "Holds position by itself.",
  "It sounds even; no motor labours.",
  "It answers each stick, the right way.",
  "No warning on the display, the charge falls slowly.",
];

/** Ten seconds low, or thirty at height: watch, listen, read the lean, and let it be judged once more. */
export function HoverCheck({
  plan,
  result,
  change,
}: {
  plan: Plan;
  result: Result | undefined;
  change: Change<Plan>;
}) {
  const units = useUnits();
  const [ends, setEnds] = useState<{ at: number; seconds: number } | null>(null);
  const [now, setNow] = useState(() => Date.now());
  const says = useDevices().data?.aircraft?.says;
  const tilt = says?.tilt_deg ?? null;
  const [leaning, setLeaning] = useState(false);
  useEffect(() => {
    if (!ends) return;
    const timer = setInterval(() => setNow(Date.now()), 250);
    return () => clearInterval(timer);
  }, [ends]);
  const left = ends ? Math.max(0, Math.ceil((ends.at - now) / 1000)) : null;
  const begin = (seconds: number) => {
    setNow(Date.now());
    setEnds({ at: Date.now() + seconds * 1000, seconds });
  };
  const wind = result?.wind?.planned;
  return (
    <>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        <Button variant="outlined" sx={{ minHeight: 52 }} onClick={() => begin(10)}>
          10 s, low
        </Button>
        <Button variant="outlined" sx={{ minHeight: 52 }} onClick={() => begin(30)}>
          30 s at {written(30, "length", units)}
        </Button>
        <Button variant="outlined" sx={{ minHeight: 52 }} onClick={() => setLeaning(true)}>
          {tilt === null ? "Enter the tilt" : `The tilt: ${Math.round(tilt)}°, as read`}
        </Button>
      </Box>
      {ends && (
        <Box role="timer" aria-label="Hover check" sx={{ my: 1 }}>
          <Typography sx={{ fontSize: "2.4rem", fontWeight: 800, lineHeight: 1 }}>
            {left === 0 ? "Time is up" : `${left} s`}
          </Typography>
          <LinearProgress
            variant="determinate"
            value={100 - (100 * (left ?? 0)) / ends.seconds}
            sx={{ height: 8, borderRadius: 4 }}
          />
        </Box>
      )}
      <Box component="ul" sx={{ my: 1, pl: 2.5 }}>
        {LOOK_FOR.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </Box>
      {wind && (
        <Typography variant="body2">
          Checked with {written(wind.speed_ms, "speed", units)} from {bearing(wind.direction_deg)}{" "}
          at {written(wind.height_m, "length", units)}, gusts{" "}
          {written(wind.gust_ms, "speed", units)}. Reading the tilt puts the wind at that height in
          its place.
        </Typography>
      )}
      {leaning && (
        <LeanDialog
          aircraft={plan.aircraft}
          elevationM={plan.site.elevation_m}
          temperatureC={plan.weather.temperature_c}
          read={tilt}
          onClose={() => setLeaning(false)}
          take={(height, ms) => {
            const { winds } = plan.weather;
            change(
              ["weather", "winds"],
              [...winds, readingLike(winds.at(-1)!, height, ms, "hover")],
            );
            setLeaning(false);
          }}
        />
      )}
    </>
  );
}
