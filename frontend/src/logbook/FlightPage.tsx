import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useState, type ReactNode } from "react";
import { Link, useParams } from "react-router";
import { useDeleteFlight, useLoggedFlight, useSaveFlight } from "../api/flights";
import type { FlightEntry, OpenedFlight, Problem, Verdict } from "../api/client";
import { WORDS } from "../flight/calling";
import type { Call } from "../flight/clock";
import { standing } from "../flight/record";
import { Drain } from "../drawings/Drain";
import { VERDICT_WORDS, VerdictMark } from "../shell/marks";
import { ProblemNote, Waiting } from "../shell/notes";
import { Photos } from "../photos/Photos";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { moment, momentHere } from "../shell/time";
import { inClock } from "../flight/words";
import { written } from "../units/units";
import { HeldForecasts } from "./HeldForecasts";
import { EntryDialog } from "./EntryDialog";
import { TrackPanel } from "./TrackPanel";
import { overPlan, spent } from "./words";
import type { PilotsWord } from "../api/client";
import { PILOTS_WORDS } from "../decisions/words";

/** One flight of the logbook: what it was, what happened in it, its track, what its entry said before. */
export function FlightPage() {
  const uid = useParams().uid!;
  const flight = useLoggedFlight(uid);
  const remove = useDeleteFlight();
  const [gone, setGone] = useState(false);
  useEffect(() => {
    document.title = "Flight · Lark";
  }, []);
  if (gone)
    return (
      <Alert
        severity="info"
        sx={{ m: 2 }}
        action={
          <Button
            color="inherit"
            onClick={() => remove.mutate({ uid, back: true }, { onSuccess: () => setGone(false) })}
          >
            Restore
          </Button>
        }
      >
        Flight deleted. <Link to="/logbook">All flights</Link>
      </Alert>
    );
  if (flight.isPending) return <Waiting what="the flight" />;
  if (flight.error)
    return (
      <ProblemNote
        problem={flight.error as Problem}
        again={() => void flight.refetch()}
        back={{ to: "/logbook", words: "All flights" }}
      />
    );
  return (
    <Opened
      opened={flight.data}
      remove={() => remove.mutate({ uid, back: false }, { onSuccess: () => setGone(true) })}
    />
  );
}

function Opened({ opened, remove }: { opened: OpenedFlight; remove: () => void }) {
  const { flight, events, history } = opened;
  const save = useSaveFlight(flight.uid);
  const [editing, setEditing] = useState(false);
  const e = flight.entry;
  const told = standing(events);
  const landed = told.find((x) => x.kind === "landed");
  const distances = told.filter((x) => x.kind === "distance");
  return (
    <Box sx={{ px: { xs: 1, md: 2.5 }, py: { xs: 1, md: 2 }, maxWidth: 1300 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1, flexWrap: "wrap" }}>
        {e.verdict && <VerdictMark verdict={e.verdict as Verdict} size={34} />}
        <Box sx={{ flex: 1, minWidth: 200 }}>
          <Typography variant="h1">{e.place || "Flight"}</Typography>
          <Typography color="text.secondary">
            {moment(e.started_at)}, {e.aircraft}
            {e.pack && `, battery ${e.pack}`}
          </Typography>
        </Box>
        <Button component={Link} to="/logbook">
          All flights
        </Button>
        <Button onClick={() => setEditing(true)}>Edit</Button>
        <Button onClick={remove}>Delete</Button>
      </Box>
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) minmax(0,1fr)" },
          gap: { xs: 0, md: 1.5 },
          alignItems: "start",
        }}
      >
        <Box>
          <Numbers opened={opened} />
          {flight.card && landed && (
            <Panel title="Drain" hint="predicted and read">
              <Drain
                card={{ ...flight.card, charge_pct: e.charge_from_pct ?? flight.card.charge_pct }}
                moment={{
                  at_s: landed.at_s,
                  distance_m: distances.at(-1)?.value ?? flight.card.distances_m.at(-1) ?? 0,
                  readings: told
                    .filter((x) => x.kind === "reading")
                    .map((x) => ({ at_s: x.at_s, charge_pct: x.value! })),
                  turned_s: told.find((x) => x.kind === "turned")?.at_s ?? null,
                  hopeful: false,
                }}
                landed={{ at_s: landed.at_s, charge_pct: landed.value! }}
              />
            </Panel>
          )}
          <Photos of={{ flight: flight.uid }} />
          <HeldForecasts uid={flight.uid} />
          {told.length > 0 && <Events events={told} />}
          {history.length > 0 && <History history={history} now={e} />}
        </Box>
        <TrackPanel opened={opened} />
      </Box>
      {editing && (
        <EntryDialog
          title="Edit flight"
          entry={e}
          problem={save.error as Problem | null}
          onClose={() => setEditing(false)}
          save={(entry) =>
            save.mutate(
              { entry, revision: flight.revision },
              { onSuccess: () => setEditing(false) },
            )
          }
        />
      )}
    </Box>
  );
}

function Numbers({ opened }: { opened: OpenedFlight }) {
  const units = useUnits();
  const e = opened.flight.entry;
  const points = spent(e);
  const over = overPlan(opened.flight);
  const rows: [string, ReactNode][] = [
    ["In the air", e.seconds == null ? "not known" : `${inClock(e.seconds)} min`],
    [
      "Charge",
      points === null
        ? "not known"
        : `${Math.round(e.charge_from_pct!)}% to ${Math.round(e.charge_to_pct!)}%` +
          (e.seconds ? `, ${((60 * points) / e.seconds).toFixed(1)} points a minute` : ""),
    ],
    [
      "Against the plan",
      over === null
        ? "not known"
        : Math.abs(over) < 1
          ? "as predicted"
          : `${Math.abs(Math.round(over))} points ${over > 0 ? "more" : "less"} used than predicted for this flight`,
    ],
    [
      "Wind",
      [
        e.wind_predicted_ms != null && `predicted ${written(e.wind_predicted_ms, "speed", units)}`,
        e.wind_met_ms != null && `met ${written(e.wind_met_ms, "speed", units)}`,
      ]
        .filter(Boolean)
        .join(", ") || "not known",
    ],
    [
      "Farthest, highest",
      [
        e.distance_m != null && written(e.distance_m, "length", units),
        e.height_m != null && written(e.height_m, "length", units),
      ]
        .filter(Boolean)
        .join(", ") || "not known",
    ],
    [
      "Decision",
      e.verdict
        ? `${e.word ? PILOTS_WORDS[e.word as PilotsWord] : "None"}, on “${VERDICT_WORDS[e.verdict as Verdict].toLowerCase()}”`
        : "none",
    ],
    ["Note", e.note || "none"],
  ];
  const session = opened.flight.session_id;
  const decision = opened.flight.decision_id;
  return (
    <Panel title="The flight" hint={e.manual_return ? "flown home manually" : ""}>
      <Box
        component="dl"
        sx={{
          display: "grid",
          gridTemplateColumns: "max-content 1fr",
          gap: 0.75,
          columnGap: 2,
          m: 0,
        }}
      >
        {rows.map(([name, value]) => (
          <Box key={name} sx={{ display: "contents" }}>
            <Typography component="dt" color="text.secondary">
              {name}
            </Typography>
            <Box component="dd" sx={{ m: 0, fontWeight: 600 }}>
              {value}
            </Box>
          </Box>
        ))}
      </Box>
      {session !== null && (
        <Typography variant="body2" sx={{ mt: 1 }}>
          <Link to={`/sessions/${session}/after`}>Its session</Link>
          {decision !== null && (
            <>
              , <Link to={`/sessions/${session}/decisions/${decision}`}>launch decision</Link>
            </>
          )}
        </Typography>
      )}
    </Panel>
  );
}

const KINDS: Record<string, string> = {
  takeoff: "Took off",
  reading: "Read",
  distance: "Out at",
  turned: "Turned back",
  signal: "Video broke up",
  near_miss: "Near miss",
  note: "Note",
  landed: "Landed",
};

function Events({ events }: { events: OpenedFlight["events"] }) {
  const units = useUnits();
  return (
    <Panel title="What happened" hint={`${events.length} entries`}>
      <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {events.map((e) => (
          <li key={e.uid}>
            <Box component="span" sx={{ fontVariantNumeric: "tabular-nums", mr: 1.5 }}>
              {inClock(e.at_s)}
            </Box>
            {e.kind === "call" ? `Alert: ${WORDS[e.text as Call]?.large ?? e.text}` : KINDS[e.kind]}
            {e.value != null &&
              (["distance", "signal"].includes(e.kind)
                ? ` ${written(e.value, "length", units)}`
                : ` ${Math.round(e.value)}%`)}
            {e.kind !== "call" && e.text && `: ${e.text}`}
          </li>
        ))}
      </Box>
    </Panel>
  );
}

const LABELS: Partial<Record<keyof FlightEntry, string>> = {
  started_at: "take-off",
  seconds: "time in the air [s]",
  charge_from_pct: "charge at take-off [%]",
  charge_to_pct: "charge at landing [%]",
  predicted_to_pct: "predicted charge [%]",
  wind_predicted_ms: "wind predicted [m/s]",
  wind_met_ms: "wind met [m/s]",
  distance_m: "farthest [m]",
  height_m: "highest [m]",
  manual_return: "flown home manually",
  word: "decision",
};

function before(value: unknown): string {
  if (value == null || value === "") return "not known";
  if (Array.isArray(value)) return `${value.length} of them`;
  return typeof value === "boolean" ? (value ? "yes" : "no") : String(value);
}

/** What an entry said before, each time only what was changed then. */
function History({ history, now }: { history: OpenedFlight["history"]; now: FlightEntry }) {
  return (
    <Panel
      title="Edit history"
      hint={history.length === 1 ? "changed once" : `changed ${history.length} times`}
    >
      <Box component="ul" sx={{ pl: 2.5, m: 0 }}>
        {history.map((past, n) => {
          const after = n === 0 ? now : history[n - 1]!.before;
          const keys = (Object.keys(after) as (keyof FlightEntry)[]).filter(
            (key) => JSON.stringify(after[key]) !== JSON.stringify(past.before[key]),
          );
          return (
            <li key={past.edited_at}>
              {momentHere(past.edited_at)}:{" "}
              {keys
                .map((key) => `${LABELS[key] ?? key} was ${before(past.before[key])}`)
                .join(", ") || "nothing changed"}
            </li>
          );
        })}
      </Box>
    </Panel>
  );
}
