import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Drain } from "../../drawings/Drain";
import { Panel } from "../../shell/Panel";
import { cardOf, momentOf, readingsOf, standing, turnedAt, unsent } from "../../flight/record";
import { HEARD_S } from "../../flight/calling";
import type { InFlight } from "../../flight/useFlight";
import { Big } from "../../flight/Big";
import { CallBanner } from "./CallBanner";
import { DistanceChoice } from "./DistanceChoice";
import { ForAnObserver } from "./ForAnObserver";
import { LandDialog } from "./LandDialog";
import { Marks } from "./Marks";
import { ReadingPad } from "./ReadingPad";
import { WindMet } from "./WindMet";
import { inClock, onTheWall } from "../../flight/words";

/** A flight in the air: what to do now in large words, the numbers, one-touch readings. */
export function FlightView({ flight }: { flight: InFlight }) {
  const { record, state, at_s } = flight;
  const [landing, setLanding] = useState(false);
  const turned = turnedAt(record);
  const readings = readingsOf(record);
  const card = cardOf(record);
  const last = readings.at(-1);
  const waiting = unsent(record).length;
  const turning = standing(record.events).find((e) => e.kind === "turned");
  const slip = standing(record.events).findLast((e) => e.kind === "reading");
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) minmax(0,1fr)" },
        gap: { xs: 0, md: 1.5 },
        alignItems: "start",
      }}
    >
      <Box>
        <CallBanner
          calls={state?.calls ?? []}
          lookAt={record.plan.look_at}
          readings={readings}
          turned={turned !== null}
          heard={record.calling.every((c) => at_s - (record.heard?.[c] ?? -HEARD_S) < HEARD_S)}
          hear={flight.hear}
        />
        <Panel title="Flight clock" hint={turned === null ? "outbound" : "flying home"}>
          <Box
            sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 1, alignItems: "end" }}
          >
            <Big label="flight time" value={inClock(at_s)} timer />
            <Big
              label={last ? "charge now" : "charge, predicted"}
              value={state ? `${Math.round(state.charge_pct)}%` : "?"}
            />
            <Big
              label={turned === null ? "turn back at" : "land with"}
              value={
                turned === null
                  ? percentOr(state?.turn_back_pct, Math.ceil)
                  : percentOr(state?.landing_pct, Math.round)
              }
              strong
            />
          </Box>
          {state?.turn_back_s != null && turned === null && (
            <Typography sx={{ fontSize: "1.25rem", fontWeight: 700, mt: 0.5 }}>
              Turn back in {inClock(state.turn_back_s)} · land by{" "}
              {onTheWall(new Date(), state.land_by_s! - at_s)}
            </Typography>
          )}
          {turned !== null && state?.land_by_s != null && (
            <Typography sx={{ fontSize: "1.25rem", fontWeight: 700, mt: 0.5 }}>
              On the ground in {inClock(state.land_by_s - at_s)} min
            </Typography>
          )}
          {flight.jumped && (
            <Typography variant="body2" role="status">
              {flight.jumped === "back"
                ? "This device’s clock was set back: the flight time is not certain, and may be longer. Read the charge now, and turn back early."
                : "This device slept, or its clock was set ahead; the time counts as flown."}
            </Typography>
          )}
          {turned === null && <DistanceChoice flight={flight} />}
        </Panel>
        <Panel title="Charge reading" hint={last ? `${inClock(at_s - last.at_s)} ago` : "none yet"}>
          <ReadingPad
            expected={state?.charge_pct ?? last?.charge_pct ?? 100}
            last={last?.charge_pct ?? card?.charge_pct ?? 100}
            begun={card?.charge_pct ?? 100}
            read={(value) => flight.put("reading", { value })}
            correct={(value) => {
              for (const e of standing(record.events))
                if (e.kind === "reading" && e.value! < value)
                  flight.put("withdrawn", { text: e.uid });
              flight.put("reading", { value });
            }}
          />
          {slip && (
            <Button size="small" onClick={() => flight.put("withdrawn", { text: slip.uid })}>
              Undo {slip.value}%
            </Button>
          )}
        </Panel>
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, mb: 1.25 }}>
          <Button
            variant="outlined"
            sx={{ minHeight: 64, fontSize: "1.1rem" }}
            onClick={() =>
              turning ? flight.put("withdrawn", { text: turning.uid }) : flight.put("turned")
            }
          >
            {turning ? "Undo turn-back" : "Turned back"}
          </Button>
          <Button
            variant="contained"
            sx={{ minHeight: 64, fontSize: "1.1rem" }}
            onClick={() => setLanding(true)}
          >
            Landed
          </Button>
        </Box>
      </Box>
      <Box>
        {card && (
          <Panel title="Drain" hint="is this battery behaving?">
            <Drain card={card} moment={momentOf(record, at_s)} history={record.plan.history} />
            {state && last && (
              <Typography variant="body2">
                Using charge at {Math.round(100 * state.factor)}% of the planned rate.{" "}
                {state.factor < 0.97 && !record.hopeful && "The turn-back stays as planned. "}
                {state.factor < 0.97 && (
                  <Button size="small" onClick={() => flight.setHopeful(!record.hopeful)}>
                    {record.hopeful ? "Use the cautious turn-back" : "Use what is measured"}
                  </Button>
                )}
              </Typography>
            )}
          </Panel>
        )}
        <WindMet flight={flight} />
        <Marks flight={flight} />
        <Typography variant="body2" color="text.secondary" role="status" sx={{ px: 1 }}>
          {waiting === 0
            ? "Everything is on the server."
            : `${waiting} ${waiting === 1 ? "entry" : "entries"} saved on this device. They’ll upload when the server is back.`}
        </Typography>
        {flight.forgetful && (
          <Alert severity="error" icon={false} sx={{ border: 1, mt: 1 }}>
            This browser can’t save data. Don’t reload the page until you’ve landed.
          </Alert>
        )}
      </Box>
      <ForAnObserver sessionId={record.session} />
      {landing && (
        <LandDialog
          expected={state?.charge_pct ?? last?.charge_pct ?? 50}
          most={last?.charge_pct ?? card?.charge_pct ?? 100}
          onClose={() => setLanding(false)}
          land={(value) => {
            setLanding(false);
            flight.put("landed", { value });
          }}
        />
      )}
    </Box>
  );
}

const percentOr = (value: number | null | undefined, round: (v: number) => number) =>
  value == null ? "?" : `${round(value)}%`;
