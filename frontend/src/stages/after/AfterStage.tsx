import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import { Link, useParams } from "react-router";
import type { Afterwards, Flight, Problem } from "../../api/client";
import { Drain } from "../../drawings/Drain";
import { ProblemNote, Waiting } from "../../shell/notes";
import { Photos } from "../../photos/Photos";
import { Panel } from "../../shell/Panel";
import { useUnits } from "../../shell/preferences";
import { moment } from "../../shell/time";
import { useAfter } from "../../outbox/lists";
import { useSaying } from "../../outbox/useSaying";
import { WaitingWords } from "../../outbox/WaitingWords";
import { written } from "../../units/units";
import { inClock } from "../../flight/words";
import { StrandedFlights } from "../flight/StrandedFlights";
import { JudgedSeal } from "../JudgedSeal";
import { useRoomIfOpen } from "../SessionRoom";
import { WarmUp } from "./WarmUp";

/** After the flight: what it cost against what was planned, what is left to do, the gear that comes in. */
export function AfterStage() {
  const id = Number(useParams().sessionId);
  const after = useAfter(id);
  const plan = useRoomIfOpen()?.editor.plan;
  const { refetch } = after;
  const title = plan?.title;
  useEffect(() => {
    document.title = `${title ?? "Session"}, after · Lark`;
  }, [title]);
  // A flight that has just landed may still be on its way up.
  useEffect(() => {
    const timer = setInterval(() => void refetch(), 5_000);
    return () => clearInterval(timer);
  }, [refetch]);
  return (
    <Box sx={{ px: { xs: 1, md: 2.5 }, pt: { md: 1.25 }, pb: 2, maxWidth: 1100 }}>
      {plan && <JudgedSeal plan={plan} />}
      <Typography variant="h1" noWrap sx={{ py: 0.5 }}>
        {title ?? "After the flight"}
      </Typography>
      <StrandedFlights sessionId={id} />
      {after.isPending && <Waiting what="the flights" />}
      {after.error && (
        <ProblemNote problem={after.error as Problem} again={() => void after.refetch()} />
      )}
      {after.data && (
        <Box
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) minmax(0,1fr)" },
            gap: { xs: 0, md: 1.5 },
            alignItems: "start",
          }}
        >
          <Box>
            {after.data.flights.length === 0 && (
              <Panel title="Flights" hint="none yet">
                <Typography>
                  No flight in this session yet.{" "}
                  <Link to={`/sessions/${id}/flight`}>Open the flight clock</Link>
                </Typography>
              </Panel>
            )}
            {after.data.flights.map((flight, n) => (
              <Box key={flight.uid}>
                <FlightPanel flight={flight} number={n + 1} />
                <Photos of={{ flight: flight.uid }} />
              </Box>
            ))}
          </Box>
          <Box>
            {after.data.pack && <PackPanel pack={after.data.pack} />}
            <Chores id={id} after={after.data} />
            <Panel title="Warming" hint="from the cold into a room">
              <WarmUp sessionId={id} gear_c={after.data.gear_c} />
            </Panel>
          </Box>
        </Box>
      )}
    </Box>
  );
}

function FlightPanel({ flight, number }: { flight: Flight; number: number }) {
  const units = useUnits();
  const e = flight.entry;
  const over =
    e.charge_to_pct != null && e.predicted_to_pct != null
      ? e.charge_to_pct - e.predicted_to_pct
      : null;
  return (
    <Panel title={`Flight ${number}`} hint={moment(e.started_at)}>
      {flight.landed && e.seconds != null ? (
        <>
          <Typography sx={{ fontSize: "1.25rem", fontWeight: 700 }}>
            {inClock(e.seconds)} min, landed with {Math.round(e.charge_to_pct ?? 0)}%
          </Typography>
          <Typography>
            {e.distance_m != null && `${written(e.distance_m, "length", units)} out. `}
            {over !== null &&
              `Predicted ${Math.round(e.predicted_to_pct!)}% at landing: ` +
                (Math.abs(over) < 1
                  ? "as predicted."
                  : `${Math.abs(Math.round(over))} points ${over < 0 ? "more" : "less"} used.`)}
          </Typography>
        </>
      ) : (
        <Typography>Still flying, or the landing hasn’t uploaded yet.</Typography>
      )}
      {e.marks.map((mark, n) => (
        <Typography key={n} variant="body2">
          {mark.at_s != null && `${inClock(mark.at_s)} `}
          {mark.text || mark.kind}
          {mark.distance_m != null && ` at ${written(mark.distance_m, "length", units)}`}
        </Typography>
      ))}
      {flight.card && flight.landed && e.seconds != null && e.charge_to_pct != null && (
        <Drain
          card={{ ...flight.card, charge_pct: e.charge_from_pct ?? flight.card.charge_pct }}
          moment={{
            at_s: e.seconds,
            distance_m: e.distance_m ?? 0,
            readings: [],
            turned_s: null,
            hopeful: false,
          }}
          landed={{ at_s: e.seconds, charge_pct: e.charge_to_pct }}
        />
      )}
      <Link to={`/logbook/${flight.uid}`}>In the logbook</Link>
    </Panel>
  );
}

const STATES: Record<string, string> = {
  full: "full",
  partly: "part-used",
  storage: "at storage charge",
  swollen: "swollen",
  wet: "wet",
  retired: "retired",
};

function PackPanel({ pack }: { pack: NonNullable<Afterwards["pack"]> }) {
  return (
    <Panel
      title={`Battery ${pack.label}`}
      hint={`${STATES[pack.state]}, ${Math.round(pack.charge_pct)}%`}
    >
      <Typography>{pack.advice}</Typography>
      <Typography variant="body2" color="text.secondary">
        Charge and cycles update automatically. Swollen, hot or wet?{" "}
        <Link to="/gear">Mark it in Gear</Link>.
      </Typography>
    </Panel>
  );
}

function Chores({ id, after }: { id: number; after: Afterwards }) {
  const say = useSaying(id, "after");
  const open = after.chores.filter((c) => !(c.key in after.said)).length;
  return (
    <Panel title="What is left" hint={open ? `${open} open` : "all done"}>
      {after.dry_until && (
        <Alert severity="warning" icon={false} sx={{ border: 1, mb: 1 }}>
          It got wet: dry it until {moment(after.dry_until)} before the next flight.
        </Alert>
      )}
      {after.chores.map((chore) => (
        <FormControlLabel
          key={chore.key}
          sx={{ display: "flex", alignItems: "flex-start", minHeight: 52, mr: 0 }}
          control={
            <Checkbox
              checked={chore.key in after.said}
              onChange={(_, done) => say({ item: chore.key, word: done ? "done" : null })}
            />
          }
          label={
            <Box sx={{ pt: 0.75 }}>
              <b>{chore.text}</b>
              <Typography variant="body2" color="text.secondary">
                {chore.why}
              </Typography>
            </Box>
          }
        />
      ))}
      <WaitingWords session={id} lists={["after"]} />
    </Panel>
  );
}
