import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { useUnits } from "../../shell/preferences";
import { Panel } from "../../shell/Panel";
import { cardOf, standing, windMet } from "../../flight/record";
import type { InFlight } from "../../flight/useFlight";
import { againstBySpeeds, reachNow, rowFor, windByLean } from "../../flight/windMet";
import { QuantityInput } from "../../inputs/QuantityInput";
import { written } from "../../units/units";

const MODES = {
  rth: "return to home",
  slow: "slow mode",
  normal: "normal mode",
  fast: "fast mode",
} as const;

/** Does it still come home? One entry gives the wind up there, and with it turn-back, reach and the best height. */
export function WindMet({ flight }: { flight: InFlight }) {
  const units = useUnits();
  const { record, state } = flight;
  const card = record.plan.card;
  const [way, setWay] = useState<"speeds" | "lean">("speeds");
  const [home, setHome] = useState(Math.round(card?.held_ms ?? 10));
  const [away, setAway] = useState(Math.round(card?.held_ms ?? 10));
  const [lean, setLean] = useState(10);
  // A flight that began under an older Lark has no rows of the wind.
  if (!card?.winds?.length) return null;
  const speed = (ms: number) => written(ms, "speed", units);
  const met = windMet(record);
  const entry = standing(record.events).findLast((e) => e.kind === "wind");
  const found = way === "speeds" ? againstBySpeeds(home, away) : windByLean(card, lean);
  return (
    <Panel
      title="Does it still come home?"
      hint={met === null ? "by the plan's wind" : `by ${speed(Math.abs(met))} met`}
    >
      {met !== null && <Answer against={met} flight={flight} />}
      <ToggleButtonGroup
        exclusive
        fullWidth
        aria-label="How the wind is read"
        value={way}
        onChange={(_, next: "speeds" | "lean" | null) => next && setWay(next)}
      >
        <ToggleButton value="speeds" sx={{ minHeight: 52 }}>
          Full stick, both ways
        </ToggleButton>
        <ToggleButton value="lean" sx={{ minHeight: 52 }}>
          Tilt, holding still
        </ToggleButton>
      </ToggleButtonGroup>
      {way === "speeds" ? (
        <>
          <QuantityInput
            label="Ground speed towards home"
            quantity="speed"
            value={home}
            min={0}
            max={40}
            onChange={setHome}
          />
          <QuantityInput
            label="Ground speed away from home"
            quantity="speed"
            value={away}
            min={0}
            max={40}
            onChange={setAway}
          />
        </>
      ) : (
        <QuantityInput
          label="Tilt"
          quantity="angle"
          value={lean}
          min={0}
          max={45}
          onChange={setLean}
        />
      )}
      <Typography aria-live="polite" sx={{ fontSize: "1.1rem", fontWeight: 700, my: 0.5 }}>
        {found === null
          ? "Alike both ways: it held its ground speed, which tells nothing. Use the tilt."
          : way === "lean"
            ? `${speed(found)} of wind; counted as standing against the way home`
            : found >= 0
              ? `${speed(found)} of wind against the way home`
              : `${speed(-found)} of wind with you on the way home`}
      </Typography>
      <Box sx={{ display: "flex", gap: 1 }}>
        <Button
          variant="contained"
          disabled={found === null}
          sx={{ minHeight: 52 }}
          onClick={() =>
            found !== null &&
            flight.put("wind", { value: Math.max(0, Math.round(found * 10) / 10) })
          }
        >
          Count with it
        </Button>
        {entry && (
          <Button
            sx={{ minHeight: 52 }}
            onClick={() => flight.put("withdrawn", { text: entry.uid })}
          >
            Back to the plan’s wind
          </Button>
        )}
      </Box>
      {state === null && <Typography role="status">No charge is known to count with.</Typography>}
    </Panel>
  );
}

function Answer({ against, flight }: { against: number; flight: InFlight }) {
  const units = useUnits();
  const { record, state } = flight;
  const card = record.plan.card!;
  const row = rowFor(card, against);
  const speed = (ms: number) => written(ms, "speed", units);
  const length = (m: number) => written(m, "length", units);
  if (!row || (!row.home && !row.best)) {
    return (
      <Alert severity="error" icon={false} sx={{ border: 1, mb: 1, fontSize: "1.1rem" }}>
        In {speed(against)} it makes no way home at any height that clears. Land in the open while
        it can, and note where.
      </Alert>
    );
  }
  const reach = state ? reachNow(cardOf(record)!, state.charge_pct) : null;
  return (
    <Alert
      severity={row.home ? "success" : "warning"}
      icon={false}
      sx={{ border: 1, mb: 1, fontSize: "1.1rem" }}
    >
      {row.home
        ? `It still comes home as planned, at ${speed(1 / row.home.s_per_m)} ground speed.`
        : "Not as planned: manually, as below."}{" "}
      {row.best_height_m !== null && row.best_mode !== null && row.best_speed_ms !== null && (
        <>
          Best way: {length(row.best_height_m)}, {MODES[row.best_mode]}, {speed(row.best_speed_ms)}
          .{" "}
        </>
      )}
      {reach !== null && <>From up to {length(reach)} with the charge now.</>}
    </Alert>
  );
}
