import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import { Link, useParams } from "react-router";
import { useAirborne } from "../../api/flights";
import type { Airborne, Problem, Verdict } from "../../api/client";
import { VERDICT_WORDS, VerdictMark } from "../../shell/marks";
import { ProblemNote, Waiting } from "../../shell/notes";
import { usePreferences } from "../../shell/preferences";
import { CAUTION } from "../../shell/Seal";
import { useFlight } from "../../flight/useFlight";
import { JudgedSeal } from "../JudgedSeal";
import { useRoomIfOpen } from "../SessionRoom";
import { StrandedFlights } from "./StrandedFlights";
import { FlightView } from "./FlightView";
import { NextBattery } from "./NextBattery";
import { TakeOff } from "./TakeOff";

/** In the air. It needs the server for nothing once it was opened: the device keeps the card and the flight. */
export function FlightStage() {
  const id = Number(useParams().sessionId);
  return <Open key={id} id={id} />;
}

function Open({ id }: { id: number }) {
  const { units } = usePreferences();
  const { flight, begin } = useFlight(id);
  // In the air the card that was taken along counts, whatever the plan has become.
  const airborne = useAirborne(id, units, !flight);
  const room = useRoomIfOpen();
  const asPlanned = room?.editor.plan;
  const plan = flight?.record.plan ?? airborne.data;
  const flown = airborne.data?.flights.length ?? 0;
  useEffect(() => {
    document.title = `${plan?.title ?? "Session"}, airborne · Lark`;
  }, [plan?.title]);
  return (
    <Box sx={{ px: { xs: 1, md: 2.5 }, pt: { md: 1.25 }, pb: 2, maxWidth: 1100 }}>
      {!flight && asPlanned && <JudgedSeal plan={asPlanned} />}
      {plan && <Heading plan={plan} small={flight !== null} />}
      <StrandedFlights sessionId={id} />
      {!plan && airborne.isPending && <Waiting what="the flight clock" />}
      {!plan && airborne.error && (
        <ProblemNote
          problem={airborne.error as Problem}
          again={() => void airborne.refetch()}
          back={{ to: "/sessions", words: "All sessions" }}
        />
      )}
      {flight ? (
        <FlightView flight={flight} />
      ) : (
        airborne.data && (
          <>
            {flown > 0 && room && <NextBattery room={room} />}
            <TakeOff
              key={airborne.data.charge_pct}
              plan={airborne.data}
              begin={(charge) => begin(airborne.data, charge)}
            />
            <Flown plan={airborne.data} />
          </>
        )
      )}
    </Box>
  );
}

function Heading({ plan, small }: { plan: Airborne; small: boolean }) {
  const pack = plan.pack ? `, battery ${plan.pack}` : "";
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1, py: 0.5 }}>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Typography variant="h1" noWrap sx={small ? { fontSize: "1.05rem" } : undefined}>
          {plan.title}
        </Typography>
        <Typography color="text.secondary" noWrap>
          {plan.aircraft}
          {pack}
        </Typography>
      </Box>
      {small && plan.verdict && (
        <Box
          role="status"
          sx={{ display: "flex", alignItems: "center", gap: 0.75 }}
          title={CAUTION}
        >
          <VerdictMark verdict={plan.verdict as Verdict} size={26} />
          <Typography variant="body2">
            verdict:
            <br />“{VERDICT_WORDS[plan.verdict as Verdict].toLowerCase()}”
          </Typography>
        </Box>
      )}
    </Box>
  );
}

function Flown({ plan }: { plan: Airborne }) {
  if (plan.flights.length === 0) return null;
  return (
    <Alert severity="info" icon={false} sx={{ border: 1, mt: 1.5 }}>
      {plan.flights.length === 1 ? "One flight" : `${plan.flights.length} flights`} flown in this
      session. <Link to={`/sessions/${plan.session_id}/after`}>After the flight</Link>
    </Alert>
  );
}
