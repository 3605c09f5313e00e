import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { DrillCard } from "../api/client";
import { useSaying } from "../outbox/useSaying";
import { STATUS_WORDS, VERDICT_OF, VerdictMark } from "../shell/marks";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { useNow } from "../shell/useNow";
import { useRunning } from "./running";
import { goingFor, needsWords, standingSentence, type Standing } from "./words";

/** One drill: whether it may start, its steps while it goes, and how it went. */
export function OpenDrill({
  session,
  card,
  standing,
}: {
  session: number;
  card: DrillCard;
  standing: Standing;
}) {
  const units = useUnits();
  const now = useNow();
  const { running, begin, end } = useRunning(session);
  const say = useSaying(session, "drills");
  const here = running?.drill === card.key;
  const result = (word: "done" | "fault", note: string) => {
    say({ item: card.key, word, note });
    end();
  };
  return (
    <>
      <Typography variant="h1">{standing.name}</Typography>
      <Typography>{standing.why}</Typography>
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        {needsWords(card, units)} {standingSentence(standing, now)}
      </Typography>
      {here && <Going since={running.at} card={card} end={end} result={result} />}
      {!here && (
        <>
          {card.answer && (
            <Alert
              severity={card.answer.word === "done" ? "success" : "info"}
              icon={false}
              sx={{ border: 1, mb: 1 }}
            >
              {card.answer.word === "done" ? "Done well here." : "Tried here: not yet."}{" "}
              {card.answer.note}{" "}
              <Button size="small" onClick={() => say({ item: card.key, word: null })}>
                Take it back
              </Button>
            </Alert>
          )}
          <HereAndNow session={session} card={card} />
          <Panel title="What you do">
            <Steps card={card} />
          </Panel>
          {running ? (
            <Typography>
              Another drill is under way.{" "}
              <Link to={`/sessions/${session}/drills/${running.drill}`}>Open it</Link> and end it
              first.
            </Typography>
          ) : (
            <Begin session={session} card={card} begin={() => begin(card.key)} />
          )}
        </>
      )}
    </>
  );
}

function HereAndNow({ session, card }: { session: number; card: DrillCard }) {
  const unknown = card.points.filter((p) => p.status === "unknown");
  const people = unknown.some((p) => p.name === "People");
  return (
    <Panel title="Here and now" hint={STATUS_WORDS[card.status]}>
      <Box component="ul" aria-label="Here and now" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {card.points.map((point) => (
          <Box
            component="li"
            key={point.name}
            sx={{ display: "flex", gap: 1, alignItems: "flex-start", py: 0.5 }}
          >
            <Box sx={{ flexShrink: 0, pt: 0.25 }}>
              <VerdictMark verdict={VERDICT_OF[point.status]} size={20} />
            </Box>
            <Typography>
              <b>{point.name}:</b> {point.sentence}
            </Typography>
          </Box>
        ))}
      </Box>
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
        {people && (
          <Button
            component={Link}
            to={`/sessions/${session}/site`}
            variant="outlined"
            sx={{ minHeight: 48 }}
          >
            Check for people
          </Button>
        )}
        {unknown.length > (people ? 1 : 0) && (
          <Button
            component={Link}
            to={`/sessions/${session}/plan`}
            variant="outlined"
            sx={{ minHeight: 48 }}
          >
            Answer in the plan
          </Button>
        )}
      </Box>
    </Panel>
  );
}

function Steps({ card, big = false }: { card: DrillCard; big?: boolean }) {
  return (
    <>
      <Box component="ol" aria-label="Steps" sx={{ m: 0, pl: 3 }}>
        {card.steps.map((step) => (
          <Typography
            component="li"
            key={step}
            sx={{ fontSize: big ? "1.2rem" : undefined, mb: 0.5 }}
          >
            {step}
          </Typography>
        ))}
      </Box>
      <Typography sx={{ mt: 1 }}>
        <b>Done well:</b> {card.well}
      </Typography>
    </>
  );
}

function Begin({ session, card, begin }: { session: number; card: DrillCard; begin: () => void }) {
  const [yes, setYes] = useState<ReadonlySet<string>>(new Set());
  const open = card.asks.filter((ask) => !yes.has(ask));
  const tick = (ask: string) => {
    const next = new Set(yes);
    if (!next.delete(ask)) next.add(ask);
    setYes(next);
  };
  if (!card.may_start)
    return (
      <Typography role="status" sx={{ fontWeight: 700 }}>
        {card.status === "fail"
          ? "Not here and not now: see what is outside its limit above."
          : "Not yet: something above is not known."}
      </Typography>
    );
  return (
    <Panel title="Before you start">
      {card.asks.map((ask) => (
        <FormControlLabel
          key={ask}
          control={<Checkbox checked={yes.has(ask)} onChange={() => tick(ask)} />}
          label={ask}
          sx={{ display: "flex", minHeight: 48 }}
        />
      ))}
      {card.height_m !== null && (
        <Typography sx={{ mb: 1 }}>
          It is a flight: <Link to={`/sessions/${session}/preflight`}>preflight</Link> and{" "}
          <Link to={`/sessions/${session}/flight`}>flight clock</Link> as for any other. End it when
          something else needs you.
        </Typography>
      )}
      <Button
        variant="contained"
        fullWidth
        disabled={open.length > 0}
        onClick={begin}
        sx={{ minHeight: 56 }}
      >
        Start the drill
      </Button>
      {open.length > 0 && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
          Say yes to what is asked above first.
        </Typography>
      )}
    </Panel>
  );
}

function Going({
  since,
  card,
  end,
  result,
}: {
  since: string;
  card: DrillCard;
  end: () => void;
  result: (word: "done" | "fault", note: string) => void;
}) {
  const now = useNow(1000);
  const [note, setNote] = useState("");
  const top = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // On a phone the button that starts it lies far below its steps.
    top.current?.focus({ preventScroll: true });
    window.scrollTo(0, 0);
  }, []);
  const over = now.getTime() - Date.parse(since) > card.minutes * 60_000;
  return (
    <Box ref={top} tabIndex={-1} sx={{ outline: "none" }}>
      <Panel title="Under way" hint={`of about ${card.minutes} min`}>
        <Typography
          role="timer"
          aria-label="Under way for"
          sx={{ fontSize: "2.5rem", fontWeight: 700, fontVariantNumeric: "tabular-nums" }}
        >
          {goingFor(since, now)}
        </Typography>
        {over && <Typography>Longer than planned: look at the charge.</Typography>}
        {!card.may_start && (
          <Alert severity="warning" icon={false} sx={{ border: 1, mb: 1 }}>
            Since it was started something is no longer within its limit:{" "}
            {card.points.find((p) => p.status === card.status)?.sentence}
          </Alert>
        )}
        <Steps card={card} big />
      </Panel>
      <Panel title="How did it go?">
        <TextField
          label="A note, if you like"
          value={note}
          onChange={(e) => setNote(e.target.value)}
          fullWidth
          multiline
          slotProps={{ htmlInput: { maxLength: 500 } }}
          sx={{ mb: 1 }}
        />
        <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
          <Button variant="contained" sx={{ minHeight: 56 }} onClick={() => result("done", note)}>
            Done well
          </Button>
          <Button variant="outlined" sx={{ minHeight: 56 }} onClick={() => result("fault", note)}>
            Not yet
          </Button>
        </Box>
        <Button fullWidth sx={{ minHeight: 48, mt: 0.5 }} onClick={end}>
          End without a result
        </Button>
      </Panel>
    </Box>
  );
}
