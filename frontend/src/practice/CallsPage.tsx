import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useParams } from "react-router";
import type { Problem } from "../api/client";
import { AlertBox } from "../flight/AlertBox";
import { allowTones, largeOf, sound, toneOf, WORDS } from "../flight/calling";
import type { Call } from "../flight/clock";
import { inClock } from "../flight/words";
import { Panel } from "../shell/Panel";
import { ProblemNote, Waiting } from "../shell/notes";
import { useToTop } from "../shell/useToTop";
import { flightFor } from "./flights";
import {
  act,
  clockOf,
  markOf,
  START,
  step,
  truth,
  verdictOf,
  waiting,
  type Act,
  type Flying,
  type Mark,
  type Rehearsal,
} from "./rehearsal";

/** The flight clock's alerts, rehearsed: a simulated flight in speeded-up time, marked by how soon each is answered. */
export function CallsPage() {
  const seed = Number(useParams().seed ?? "1");
  const rehearsal = useQuery({
    queryKey: ["practice", "calls", seed],
    queryFn: ({ signal }) => flightFor(seed, signal),
    staleTime: Infinity,
  });
  useEffect(() => {
    document.title = "Alerts · Practice · Lark";
  }, []);
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 640 }}>
      <Button component={Link} to="/practice" sx={{ ml: -1 }}>
        Practice
      </Button>
      <Typography variant="h1">Alerts, rehearsed</Typography>
      {rehearsal.error && (
        <ProblemNote
          problem={rehearsal.error as Problem}
          again={() => void rehearsal.refetch()}
          back={{ to: "/practice", words: "Practice" }}
        />
      )}
      {rehearsal.isPending && <Waiting what="the flight" />}
      {rehearsal.data && <Flight key={seed} rehearsal={rehearsal.data} seed={seed} />}
    </Box>
  );
}

const EVERY_MS = 200;

function Flight({ rehearsal, seed }: { rehearsal: Rehearsal; seed: number }) {
  const [began, setBegan] = useState<number | null>(null);
  const [flying, setFlying] = useState<Flying>(START);
  const going = began !== null && flying.ended === null;
  useEffect(() => {
    if (!going) return;
    const timer = setInterval(
      () => setFlying((f) => step(rehearsal, f, (performance.now() - began) / 1000)),
      EVERY_MS,
    );
    return () => clearInterval(timer);
  }, [going, began, rehearsal]);
  const say = (what: Act) =>
    setFlying((f) => act(rehearsal, f, what, (performance.now() - began!) / 1000));
  if (began === null)
    return (
      <Panel title={`A flight of your ${rehearsal.aircraft}`} hint="about a minute">
        <Typography>
          Time runs {rehearsal.speed} times as fast. You are at the far point, filming. Watch for
          the flight clock’s alerts: read the charge when it asks, turn back or land when it says
          so. Half of the batteries do what the plan says; the others don’t, and only a reading
          tells.
        </Typography>
        <Button
          variant="contained"
          fullWidth
          sx={{ minHeight: 56, mt: 1 }}
          onClick={() => {
            allowTones();
            setBegan(performance.now());
          }}
        >
          Take off
        </Button>
      </Panel>
    );
  if (flying.ended) return <Marks rehearsal={rehearsal} flying={flying} seed={seed} />;
  return <InTheAir rehearsal={rehearsal} flying={flying} say={say} />;
}

function InTheAir({
  rehearsal,
  flying,
  say,
}: {
  rehearsal: Rehearsal;
  flying: Flying;
  say: (what: Act) => void;
}) {
  const state = clockOf(rehearsal, flying);
  const open = waiting(flying, state.calls);
  const shown: Call | undefined = open.at(-1) ?? state.calls.at(-1);
  useTone(open.at(-1));
  const last = flying.readings.at(-1);
  return (
    <>
      <AlertBox
        tone={toneOf(shown)}
        large={shown ? largeOf(shown) : flying.turned_s === null ? "Filming" : "Coming home"}
        small={shown ? WORDS[shown].small : "Nothing to do just now."}
      />
      <Box sx={{ display: "flex", gap: 3, mb: 1 }}>
        <Figure name="In the air" value={inClock(flying.at_s)} />
        <Figure name="By the clock" value={`${Math.round(state.charge_pct)}%`} />
        <Figure name="Read last" value={last ? `${last.charge_pct}%` : "–"} />
        <Figure
          name="Turn back at"
          value={state.turn_back_pct === null ? "–" : `${Math.ceil(state.turn_back_pct)}%`}
        />
      </Box>
      <Box sx={{ display: "grid", gap: 1 }}>
        <Button variant="outlined" sx={{ minHeight: 64 }} onClick={() => say("read")}>
          Read the charge
        </Button>
        <Button
          variant="contained"
          sx={{ minHeight: 64 }}
          disabled={flying.turned_s !== null}
          onClick={() => say("turn")}
        >
          Turn back
        </Button>
        <Button variant="outlined" sx={{ minHeight: 64 }} onClick={() => say("land")}>
          Land here
        </Button>
      </Box>
    </>
  );
}

/** The tone of an alert once it begins to wait. */
function useTone(call: Call | undefined) {
  const before = useRef<Call | undefined>(undefined);
  useEffect(() => {
    if (call && call !== before.current) sound(call);
    before.current = call;
  }, [call]);
}

function Figure({ name, value }: { name: string; value: string }) {
  return (
    <Box>
      <Typography variant="body2" color="text.secondary">
        {name}
      </Typography>
      <Typography sx={{ fontSize: "1.4rem", fontWeight: 700, fontVariantNumeric: "tabular-nums" }}>
        {value}
      </Typography>
    </Box>
  );
}

const ENDS: Record<ReturnType<typeof verdictOf>, string> = {
  good: "Down with your reserve.",
  reserve: "Down, but under your reserve.",
  early: "Down away from home, though nothing asked for it.",
  lost: "It came down by itself, wherever it was.",
};

const MARKS: Record<Mark, string> = {
  quick: "at once",
  late: "late",
  missed: "too late, or not at all",
};

const TROUBLES: Record<Rehearsal["trouble"], string> = {
  none: "The battery did what the plan said.",
  drains: "The battery drained faster than planned from the beginning.",
  drops: "A cell gave way on the way.",
};

function Marks({
  rehearsal,
  flying,
  seed,
}: {
  rehearsal: Rehearsal;
  flying: Flying;
  seed: number;
}) {
  const left = useMemo(() => truth(rehearsal, flying), [rehearsal, flying]);
  const end = verdictOf(rehearsal, flying);
  const top = useToTop<HTMLDivElement>();
  return (
    <Box ref={top} tabIndex={-1} sx={{ outline: "none" }}>
      <Panel title={ENDS[end]} hint={`${Math.round(left)}% left`}>
        <Typography>
          {TROUBLES[rehearsal.trouble]} Your reserve is {rehearsal.card.reserve_pct}%.
        </Typography>
        <Box component="ul" aria-label="Alerts" sx={{ listStyle: "none", p: 0, m: 0, mt: 1 }}>
          {flying.heard.map((heard) => (
            <Box component="li" key={`${heard.call}${heard.began_s}`} sx={{ display: "flex" }}>
              <Typography sx={{ flex: 1 }}>{WORDS[heard.call].large}</Typography>
              <Typography sx={{ fontVariantNumeric: "tabular-nums" }}>
                {heard.answered_s === null
                  ? "not answered"
                  : `${(heard.answered_s - heard.began_s).toFixed(1)} s, ${MARKS[markOf(heard)]}`}
              </Typography>
            </Box>
          ))}
          {flying.heard.length === 0 && (
            <Typography component="li">No alert waited for an answer.</Typography>
          )}
        </Box>
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", mt: 1 }}>
          <Button
            component={Link}
            to={`/practice/calls/${seed + 1}`}
            variant="contained"
            sx={{ minHeight: 48 }}
          >
            Another flight
          </Button>
          <Button component={Link} to="/practice" variant="outlined" sx={{ minHeight: 48 }}>
            That’s enough
          </Button>
        </Box>
      </Panel>
    </Box>
  );
}
