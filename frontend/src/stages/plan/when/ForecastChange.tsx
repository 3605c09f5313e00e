import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import type { Plan } from "../../../api/client";
import { useVariants } from "../../../api/queries";
import { VERDICT_WORDS } from "../../../shell/marks";
import { useUnits } from "../../../shell/preferences";
import { clock, day } from "../../../shell/time";
import { same } from "../../../editing/merge";
import { shownAt } from "../fields";

/** A plan before and after its forecast was taken. */
export interface Taken {
  before: Plan;
  after: Plan;
}

const FIGURES = [
  "weather.winds",
  "weather.temperature_c",
  "weather.dew_point_c",
  "weather.visibility_m",
  "weather.precipitation",
  "weather.kp",
];

/** What taking a forecast changed: each figure before and after, and the verdict before and after. */
export function ForecastChange({
  taken,
  undo,
  done,
}: {
  taken: Taken;
  undo: () => void;
  done: () => void;
}) {
  const units = useUnits();
  const { before, after } = taken;
  const [was, is] = useVariants([before, after], units);
  const rows = FIGURES.map((key) => ({
    key,
    old: shownAt(before, key, units),
    now: shownAt(after, key, units),
  })).filter(({ old, now }) => !same(old.value, now.value));
  const moved = before.takeoff_at !== after.takeoff_at;
  const verdicts =
    was?.data && is?.data
      ? [VERDICT_WORDS[was.data.verdict], VERDICT_WORDS[is.data.verdict]]
      : null;
  return (
    <Alert
      severity="info"
      icon={false}
      role="status"
      aria-label="What the forecast changed"
      sx={{ border: 1, my: 1 }}
    >
      <b>The forecast is in the plan.</b>
      <Box component="table" sx={{ borderSpacing: "12px 2px", ml: -1.5 }}>
        <tbody>
          {moved && (
            <tr>
              <td>Take-off</td>
              <td>{`${day(before.takeoff_at).slice(0, -5)}, ${clock(before.takeoff_at)}`}</td>
              <td>→</td>
              <td>{`${day(after.takeoff_at).slice(0, -5)}, ${clock(after.takeoff_at)}`}</td>
            </tr>
          )}
          {rows.map(({ key, old, now }) => (
            <tr key={key}>
              <td>{now.label}</td>
              <td>{old.value}</td>
              <td>→</td>
              <td>{now.value}</td>
            </tr>
          ))}
          <tr>
            <td>
              <b>Verdict</b>
            </td>
            <td>{verdicts ? verdicts[0] : "…"}</td>
            <td>→</td>
            <td>
              <b>{verdicts ? verdicts[1] : "…"}</b>
            </td>
          </tr>
        </tbody>
      </Box>
      {rows.length === 0 && !moved && "It says the same as the plan had. "}
      <Button color="inherit" onClick={undo}>
        Undo
      </Button>
      <Button color="inherit" onClick={done}>
        Keep
      </Button>
    </Alert>
  );
}
