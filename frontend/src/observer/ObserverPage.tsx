import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import { useParams } from "react-router";
import type { Observed, Problem } from "../api/client";
import { useObserved } from "../api/flights";
import { AlertBox } from "../flight/AlertBox";
import { keepAwake, largeOf, toneOf } from "../flight/calling";
import { clockState, type Call, type ClockState } from "../flight/clock";
import { cardOf, momentOf, turnedAt, type Clocked } from "../flight/record";
import { inClock, onTheWall } from "../flight/words";
import { Big } from "../flight/Big";
import { Panel } from "../shell/Panel";
import { ProblemNote, Waiting } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { useNow } from "../shell/useNow";
import { written } from "../units/units";
import { LookHere } from "./LookHere";

/** Heard from Lark longer ago than this, what is shown is old [s]. */
const OLD_S = 10;

/** For who stands beside the pilot, on a device of their own: where to look, how long, what the clock calls. */
export function ObserverPage() {
  const id = Number(useParams().sessionId);
  const found = useObserved(id);
  const now = useNow(1_000);
  useEffect(keepAwake, []);
  useEffect(() => {
    document.title = `${found.data?.title ?? "Session"}, observer · Lark`;
  }, [found.data?.title]);
  if (!found.data)
    return found.error ? (
      <ProblemNote
        problem={found.error as Problem}
        again={() => void found.refetch()}
        back={{ to: "/sessions", words: "All sessions" }}
      />
    ) : (
      <Waiting what="the flight" />
    );
  const age_s = Math.max(0, (now.getTime() - found.dataUpdatedAt) / 1000);
  return <Shown seen={found.data} age_s={age_s} />;
}

/** What the flight's clock runs by, out of what came in. */
const clocked = (seen: Observed): Clocked => ({
  plan: { card: seen.flight?.card ?? null },
  events: seen.events,
  distance_m: seen.distance_m,
  hopeful: false,
});

function Shown({ seen, age_s }: { seen: Observed; age_s: number }) {
  const units = useUnits();
  const record = clocked(seen);
  const at_s = seen.at_s === null ? null : seen.at_s + age_s;
  const card = cardOf(record);
  const state = card && at_s !== null ? clockState(card, momentOf(record, at_s)) : null;
  const old = age_s > OLD_S;
  return (
    <Box sx={{ px: { xs: 1, md: 2.5 }, py: 1.25, maxWidth: 720 }}>
      <Typography variant="h1" noWrap>
        Observer
      </Typography>
      <Typography color="text.secondary" noWrap>
        {seen.title}, {seen.aircraft}
      </Typography>
      {old && (
        <Alert severity="warning" icon={false} sx={{ border: 1, my: 1 }}>
          Lark was heard {inClock(age_s)} min ago. The time goes on; what the pilot has entered
          since is not in it.
        </Alert>
      )}
      {at_s === null ? (
        <OnTheGround seen={seen} />
      ) : (
        <>
          <Calls calls={state?.calls ?? []} turned={turnedAt(record) !== null} />
          {seen.lookout ? (
            <LookHere
              look={seen.lookout}
              flying
              where={`${written(seen.lookout.distance_m, "length", units)} out, ${written(seen.lookout.height_m, "length", units)} high, if it flies as planned`}
              old={old}
            />
          ) : (
            <Typography sx={{ my: 1 }}>
              The wind was not known, so where it should be is not worked out.
            </Typography>
          )}
          <Times at_s={at_s} state={state} turned={turnedAt(record) !== null} />
          <Typography variant="body2" color="text.secondary" sx={{ mb: 1.25 }}>
            The pilot’s last entry: {inClock(at_s - lastEntry(seen))} min ago.
          </Typography>
        </>
      )}
      <Panel title="What an observer does">
        <Typography>
          Keep the aircraft and the sky around it in sight. Say aloud, at once: other aircraft,
          birds, people or animals coming closer, and when you no longer see it or can’t tell which
          way it points. The pilot decides.
        </Typography>
      </Panel>
    </Box>
  );
}

/** When the pilot’s device told something last [s since take-off]. */
const lastEntry = (seen: Observed) => Math.max(0, ...seen.events.map((e) => e.at_s));

function OnTheGround({ seen }: { seen: Observed }) {
  const units = useUnits();
  const look = seen.lookout;
  const where =
    look &&
    `${written(look.distance_m, "length", units)} out, ${written(look.height_m, "length", units)} high at the far point, as planned`;
  return (
    <>
      <Typography
        role="status"
        aria-label="In the air?"
        sx={{ fontSize: "1.9rem", fontWeight: 850, my: 1 }}
      >
        {seen.flight?.landed ? "Landed" : "Not in the air yet"}
      </Typography>
      {seen.flight?.landed && (
        <Typography sx={{ mb: 1 }}>
          After {inClock(seen.flight.entry.seconds ?? 0)} min, with{" "}
          {Math.round(seen.flight.entry.charge_to_pct ?? 0)}%. The next flight shows here by itself.
        </Typography>
      )}
      {look && <LookHere look={look} flying={false} where={where!} old={false} />}
    </>
  );
}

/** The most urgent call, as the pilot has it. */
function Calls({ calls, turned }: { calls: Call[]; turned: boolean }) {
  const call = calls.at(-1);
  return (
    <AlertBox
      label="Alert now"
      tone={toneOf(call)}
      large={call ? largeOf(call) : turned ? "Coming home" : "In the air"}
      small={
        call ? "Lark alerts the pilot to this. Say it aloud if nothing happens." : "No alerts now."
      }
    />
  );
}

function Times({
  at_s,
  state,
  turned,
}: {
  at_s: number;
  state: ClockState | null;
  turned: boolean;
}) {
  const back = state?.turn_back_s ?? null;
  const down = state?.land_by_s ?? null;
  return (
    <Panel title="Time" hint="by the pilot’s flight clock">
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr 1fr", gap: 1, alignItems: "end" }}>
        <Big label="flight time" value={inClock(at_s)} timer />
        <Big
          label={turned ? "turned back" : "turn back in"}
          value={turned ? "yes" : back === null ? "?" : inClock(back)}
          strong={!turned}
        />
        <Big label="land by" value={down === null ? "?" : onTheWall(new Date(), down - at_s)} />
      </Box>
    </Panel>
  );
}
