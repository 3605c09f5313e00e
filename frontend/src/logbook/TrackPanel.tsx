import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { RefusedFile, sendTrack, tableHead, useDeleteTrack, useTrack } from "../api/flights";
import type { FlightTrack, OpenedFlight, Plan } from "../api/client";
import { usePlace, useSection } from "../api/places";
import { Waiting } from "../shell/notes";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { inClock } from "../flight/words";
import { bearing, written } from "../units/units";
import { TrackMap } from "./TrackMap";
import { TrackPlan, TrackSection } from "./TrackDrawings";
import { FileButton } from "../inputs/FileButton";

type Table = Awaited<ReturnType<typeof tableHead>>;
const FIELDS = [
  { key: "time", label: "Time" },
  { key: "latitude", label: "Latitude" },
  { key: "longitude", label: "Longitude" },
  { key: "height", label: "Height (if any)" },
  { key: "charge", label: "Charge (if any)" },
  { key: "tilt", label: "Tilt (if any)" },
  { key: "pitch", label: "Pitch (if any)" },
  { key: "roll", label: "Roll (if any)" },
];

/** The track of a flight: brought in from a file, and what it says beside the plan. */
export function TrackPanel({ opened }: { opened: OpenedFlight }) {
  const { uid, has_track } = opened.flight;
  const track = useTrack(uid, has_track);
  const remove = useDeleteTrack(uid);
  const queries = useQueryClient();
  const stop = useRef<AbortController | null>(null);
  const [done, setDone] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [choosing, setChoosing] = useState<{ file: File; table: Table } | null>(null);

  const send = async (file: File, columns: Record<string, string>) => {
    const asked = new AbortController();
    stop.current = asked;
    setDone(0);
    setFault(null);
    setChoosing(null);
    try {
      await sendTrack(uid, file, columns, setDone, asked.signal);
      await queries.invalidateQueries({ queryKey: ["flights"] });
    } catch (error) {
      if (asked.signal.aborted) setFault("Stopped; nothing was changed.");
      else
        setFault(
          error instanceof RefusedFile
            ? error.message
            : "Can’t reach Lark’s server; nothing was changed.",
        );
    } finally {
      setDone(null);
      stop.current = null;
    }
  };
  const take = async (file: File) => {
    setFault(null);
    try {
      const table = await tableHead(file);
      if (table.columns.length === 0) await send(file, {});
      else setChoosing({ file, table });
    } catch (error) {
      setFault(error instanceof RefusedFile ? error.message : "Can’t reach Lark’s server.");
    }
  };
  return (
    <Panel title="Track" hint="GPX 1.1, or a table with a time and a position">
      {done !== null && (
        <Box role="status">
          <Typography>Reading the track: {Math.round(100 * done)}%</Typography>
          <LinearProgress variant="determinate" value={100 * done} sx={{ my: 1 }} />
          <Button onClick={() => stop.current?.abort()}>Stop</Button>
        </Box>
      )}
      {fault && (
        <Alert severity="error" icon={false} sx={{ border: 1, mb: 1 }}>
          {fault}
        </Alert>
      )}
      {choosing && (
        <Columns
          table={choosing.table}
          take={(columns) => void send(choosing.file, columns)}
          leave={() => setChoosing(null)}
        />
      )}
      {track.data && <Facts track={track.data} opened={opened} />}
      {done === null && !choosing && (
        <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
          <FileButton
            variant="outlined"
            words={has_track ? "Replace track" : "Import the track"}
            label="Track file"
            accept=".gpx,.csv,.txt,.tsv"
            onFile={(file) => void take(file)}
          />
          {has_track && <Button onClick={() => remove.mutate(undefined)}>Remove track</Button>}
        </Box>
      )}
    </Panel>
  );
}

function Columns({
  table,
  take,
  leave,
}: {
  table: Table;
  take: (columns: Record<string, string>) => void;
  leave: () => void;
}) {
  const [columns, setColumns] = useState<Record<string, string>>(table.guess);
  const ready = ["time", "latitude", "longitude"].every((key) => columns[key]);
  return (
    <Box component="section" aria-label="Which column is which">
      <Typography sx={{ mb: 1 }}>Which column is which?</Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1 }}>
        {FIELDS.map(({ key, label }) => {
          const at = table.columns.indexOf(columns[key] ?? "");
          return (
            <TextField
              key={key}
              select
              size="small"
              label={label}
              value={columns[key] ?? ""}
              helperText={at < 0 ? " " : `first: ${table.rows[0]?.[at] ?? ""}`}
              onChange={(e) =>
                setColumns(
                  Object.fromEntries(
                    Object.entries({ ...columns, [key]: e.target.value }).filter(([, v]) => v),
                  ),
                )
              }
            >
              <MenuItem value="">none</MenuItem>
              {table.columns.map((name) => (
                <MenuItem key={name} value={name}>
                  {name}
                </MenuItem>
              ))}
            </TextField>
          );
        })}
      </Box>
      <Button variant="contained" disabled={!ready} onClick={() => take(columns)} sx={{ mt: 1 }}>
        Import
      </Button>
      <Button onClick={leave} sx={{ mt: 1 }}>
        Leave
      </Button>
    </Box>
  );
}

const LEG_WORDS: Record<string, string> = {
  climb: "Take-off and climb",
  out: "Outbound",
  station: "Filming",
  home: "Return",
  descent: "Descent and landing",
};
const HOW_WORDS = {
  circle: "",
  lean: ", from how much it tilted",
  charge: ", from the charge that each heading cost",
};

/** What of the file is not counted as flown. */
function leftOut(facts: FlightTrack["facts"]): string[] {
  const found = [];
  if (facts.positions_left_out > 0)
    found.push(`${facts.positions_left_out} positions left out: nothing flies that fast.`);
  if (facts.heights_left_out > 0)
    found.push(`${facts.heights_left_out} heights left out: nothing climbs that fast.`);
  if (facts.gap_s > 0)
    found.push(`${inClock(facts.gap_s)} min without a point: not counted as flight.`);
  return found;
}

function Facts({ track, opened }: { track: FlightTrack; opened: OpenedFlight }) {
  const units = useUnits();
  const { facts } = track;
  const { plan } = opened;
  const entry = opened.flight.entry;
  return (
    <>
      {plan?.site.place != null ? (
        <OverLand track={track} plan={plan} place={plan.site.place} />
      ) : (
        <>
          <TrackPlan track={track} plan={plan} />
          <TrackSection track={track} plan={plan} />
        </>
      )}
      <Box component="ul" sx={{ pl: 2.5, my: 1 }}>
        <li>
          {written(facts.length_m, "length", units)} flown in {inClock(facts.seconds)} min, ground
          speed at most {written(facts.fastest_ms, "speed", units)}, {facts.points} points.
        </li>
        {leftOut(facts).map((words) => (
          <li key={words}>{words}</li>
        ))}
        {facts.legs.map((leg) => (
          <li key={leg.name}>
            {LEG_WORDS[leg.name] ?? leg.name}: {inClock(leg.to_s - leg.from_s)} min
            {leg.length_m >= 10 &&
              leg.speed_ms > 0 &&
              `, ${written(leg.length_m, "length", units)}, ${written(leg.speed_ms, "speed", units)} while moving`}
          </li>
        ))}
        <li>
          {"why" in facts.wind
            ? `Wind from the track: not enough data. ${facts.wind.why}`
            : `Wind from the track: ${written(facts.wind.speed_ms, "speed", units)} ±${written(facts.wind.speed_pm_ms, "speed", units)} ` +
              `from ${bearing(facts.wind.direction_deg)} ±${Math.round(facts.wind.direction_pm_deg)}°` +
              HOW_WORDS[facts.wind.how] +
              (entry.wind_predicted_ms == null
                ? "."
                : `; predicted ${written(entry.wind_predicted_ms, "speed", units)}.`)}
        </li>
        {facts.pct_per_100m != null && (
          <li>
            {facts.pct_per_100m.toFixed(1)}% of charge for each {written(100, "length", units)}{" "}
            flown.
          </li>
        )}
      </Box>
    </>
  );
}

/** On the plan view and in section, at the place as it is drawn. */
function OverLand({ track, plan, place }: { track: FlightTrack; plan: Plan; place: number }) {
  const opened = usePlace(place, true);
  const section = useSection(
    plan,
    track.facts.farthest_bearing_deg,
    Math.max(track.facts.farthest_m, plan.flight.distance_m),
  );
  return (
    <>
      {opened.data && <TrackMap track={track} plan={plan} opened={opened.data} />}
      {opened.isPending && <Waiting what="the place" />}
      {opened.error && <TrackPlan track={track} plan={plan} />}
      <TrackSection track={track} plan={plan} section={section.data} />
    </>
  );
}
