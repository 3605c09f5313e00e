import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Plan } from "../../api/client";
import type { Change } from "../../editing/change";
import { QuantityInput } from "../../inputs/QuantityInput";
import { polar } from "../../map/local";
import { Panel } from "../../shell/Panel";
import { useUnits } from "../../shell/preferences";
import { bearing, written } from "../../units/units";
import { isTheSpot, STEEPEST_DEG, topHeight, turnTo, type Pointing } from "../../sensors/sensing";
import { usePointing, usePosition, type Fix } from "../../sensors/useSensors";

/** At or below this a top is no obstacle that a tilt can measure [m]. */
const LEAST_TOP_M = 2;

/** The phone's own sensors, each read only once the pilot asks: is this the spot, where is it, how high is that. */
export function FromThisDevice({ plan, change }: { plan: Plan; change: Change<Plan> }) {
  const [located, setLocated] = useState(false);
  const { fix, refused } = usePosition(located);
  const turned = usePointing();
  return (
    <Panel title="From this device" hint="only when you ask">
      <Box role="status" aria-label="Position of this device">
        {fix && <Spot plan={plan} fix={fix} change={change} />}
        {!fix && located && !refused && <Typography>Looking for the position…</Typography>}
        {located && refused && <Typography color="error">{refused}</Typography>}
      </Box>
      {!located && (
        <Button
          variant="outlined"
          fullWidth
          sx={{ minHeight: 52 }}
          onClick={() => setLocated(true)}
        >
          Is this the spot?
        </Button>
      )}
      {turned.pointing ? (
        <Pointed plan={plan} pointing={turned.pointing} change={change} />
      ) : turned.asked ? (
        <Typography role="status" sx={{ mt: 1 }}>
          No compass yet. Hold the phone upright and turn it a little.
        </Typography>
      ) : (
        <Button variant="outlined" fullWidth sx={{ minHeight: 52, mt: 1 }} onClick={turned.ask}>
          Point the phone
        </Button>
      )}
      {turned.refused && <Typography color="error">{turned.refused}</Typography>}
    </Panel>
  );
}

/** How far from the planned take-off one stands, and whether that is true enough to say. */
function Spot({ plan, fix, change }: { plan: Plan; fix: Fix; change: Change<Plan> }) {
  const units = useUnits();
  const { site } = plan;
  const planned = { lat: site.latitude, lon: site.longitude };
  const away = polar(planned, fix);
  const true_ = `±${written(fix.accuracy_m, "length", units)}`;
  const spot = isTheSpot(away.distance, fix.accuracy_m);
  return (
    <>
      <Typography sx={{ fontWeight: 700 }}>
        {spot === "here"
          ? `You are at the take-off point (${true_}).`
          : `You are ${written(away.distance, "length", units)} from the take-off point, towards ${bearing(away.bearing)} (${true_}).`}
      </Typography>
      {spot === "unsure" && (
        <Typography variant="body2">
          The position is too vague to tell whether this is the spot.
        </Typography>
      )}
      {spot === "elsewhere" && (
        <Button
          variant="outlined"
          sx={{ minHeight: 52, my: 0.5 }}
          onClick={() =>
            change(["site"], { ...site, latitude: round(fix.lat), longitude: round(fix.lon) })
          }
        >
          Move the take-off point here
        </Button>
      )}
    </>
  );
}

const round = (degrees: number) => Math.round(degrees * 1e6) / 1e6;

/** Where it points, against where the flight goes; and the height of a top by the tilt. */
function Pointed({
  plan,
  pointing,
  change,
}: {
  plan: Plan;
  pointing: Pointing;
  change: Change<Plan>;
}) {
  const units = useUnits();
  const [distance, setDistance] = useState(30);
  const [held, setHeld] = useState<Pointing | null>(null);
  const at = held ?? pointing;
  const turn = Math.round(turnTo(pointing.bearing_deg, plan.flight.bearing_deg));
  const top = topHeight(distance, at.elevation_deg);
  const add = () =>
    change(
      ["site", "obstacles"],
      [
        ...plan.site.obstacles,
        {
          kind: "trees",
          // Measured by hand it is no lower than it may be.
          height_m: Math.ceil(top.height_m + top.pm_m),
          distance_m: Math.round(distance),
          bearing_deg: Math.round(at.bearing_deg) % 360,
          depth_m: 10,
          known: "typed",
        },
      ],
    );
  return (
    <Box sx={{ mt: 1 }}>
      <Typography role="status" aria-label="Where this device points" sx={{ fontWeight: 700 }}>
        Points towards {bearing(pointing.bearing_deg)}.{" "}
        {Math.abs(turn) <= 3
          ? "The far point is straight ahead."
          : `The far point: ${Math.abs(turn)}° to the ${turn < 0 ? "left" : "right"}.`}
      </Typography>
      <Typography variant="body2" sx={{ mt: 0.5 }}>
        The height of a tree or mast: stand so far away from it as you say here, aim the back of the
        phone at its top, and hold it there.
      </Typography>
      <QuantityInput
        label="Away from it"
        quantity="length"
        slider={false}
        min={3}
        max={300}
        value={distance}
        onChange={setDistance}
      />
      <Typography>
        {at.elevation_deg > STEEPEST_DEG
          ? "Too steep to tell: stand further away."
          : top.height_m < LEAST_TOP_M
            ? "Aim higher: the top is under your hand."
            : `Its top: about ${written(top.height_m, "length", units)} (±${written(top.pm_m, "length", units)}), towards ${bearing(at.bearing_deg)}.`}
      </Typography>
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
        <Button
          variant="outlined"
          sx={{ minHeight: 52 }}
          onClick={() => setHeld(held ? null : pointing)}
        >
          {held ? "Aim again" : "Hold this angle"}
        </Button>
        {held && top.height_m >= LEAST_TOP_M && at.elevation_deg <= STEEPEST_DEG && (
          <Button
            variant="contained"
            sx={{ minHeight: 52 }}
            onClick={() => {
              add();
              setHeld(null);
            }}
          >
            Add as trees of {written(Math.ceil(top.height_m + top.pm_m), "length", units)}
          </Button>
        )}
      </Box>
    </Box>
  );
}
