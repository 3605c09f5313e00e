import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";
import type { Airborne } from "../../api/client";
import { useDevices } from "../../api/site";
import { Panel } from "../../shell/Panel";
import { useUnits } from "../../shell/preferences";
import { clockState } from "../../flight/clock";
import { QuantityInput } from "../../inputs/QuantityInput";
import { written } from "../../units/units";
import { ForAnObserver } from "./ForAnObserver";
import { TryAlerts } from "./TryAlerts";
import { inClock } from "../../flight/words";

/** Before the take-off: the charge it starts with, what that gives, and the button that starts the clock. */
export function TakeOff({ plan, begin }: { plan: Airborne; begin: (charge: number) => void }) {
  const units = useUnits();
  const [trying, setTrying] = useState(false);
  const [charge, setCharge] = useState(plan.charge_pct);
  const read = useDevices().data?.aircraft?.says.charge_pct ?? null;
  const card = plan.card && { ...plan.card, charge_pct: charge };
  const far = card?.distances_m[2] ?? 0;
  const state =
    card &&
    clockState(card, { at_s: 0, distance_m: far, readings: [], turned_s: null, hopeful: false });
  return (
    <Panel title="Flight clock" hint="start it as you take off">
      {!plan.decision_id && (
        <Alert severity="warning" icon={false} sx={{ border: 1, mb: 1 }}>
          No launch decision for this flight yet. Every flight gets its own:{" "}
          <Link to={`/sessions/${plan.session_id}/preflight`}>to the preflight</Link>
        </Alert>
      )}
      <QuantityInput
        label="Charge at take-off"
        quantity="percent"
        min={30}
        max={100}
        least={0}
        value={charge}
        onChange={setCharge}
      />
      {read !== null && read !== charge && (
        <Button variant="outlined" sx={{ minHeight: 48, mb: 1 }} onClick={() => setCharge(read)}>
          {Math.round(read)}% (from the aircraft)
        </Button>
      )}
      {state?.turn_back_pct != null && state.turn_back_s !== null && (
        <Typography sx={{ my: 1 }}>
          From {written(far, "length", units)} out, turn back at{" "}
          <b>{Math.ceil(state.turn_back_pct)}%</b>: after {inClock(state.turn_back_s)} min. On the
          ground after {inClock(state.land_by_s!)} min.
        </Typography>
      )}
      {!card && (
        <Alert severity="warning" icon={false} sx={{ border: 1, mb: 1 }}>
          Wind unknown: no predictions. The clock only counts time and saves your readings.
        </Alert>
      )}
      {card && !card.home && (
        <Alert severity="error" icon={false} sx={{ border: 1, mb: 1 }}>
          In this wind it can’t get home from the far point, so there is no turn-back charge.
        </Alert>
      )}
      <Button
        variant="contained"
        fullWidth
        sx={{ minHeight: 72, fontSize: "1.25rem" }}
        onClick={() => begin(charge)}
      >
        Start flight clock
      </Button>
      <Button fullWidth sx={{ minHeight: 48, mt: 1 }} onClick={() => setTrying(true)}>
        Try the alerts
      </Button>
      <ForAnObserver sessionId={plan.session_id} />
      {trying && <TryAlerts onClose={() => setTrying(false)} />}
    </Panel>
  );
}
