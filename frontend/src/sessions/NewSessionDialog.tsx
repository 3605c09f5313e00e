import Button from "@mui/material/Button";
import Dialog from "../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";
import { Problem, type Kept, type NewSession, type SessionSummary } from "../api/client";
import { useKit } from "../api/kit";
import { usePlaces } from "../api/places";
import { useSessionActions } from "../api/queries";
import { useTimeZone } from "../api/timeZone";
import { ProblemNote } from "../shell/notes";
import { isoOf, offsetHere, offsetIn } from "../shell/time";
import { PositionInput } from "../inputs/PositionInput";
import { readPosition, type Position } from "../inputs/position";
import { tomorrowMorning } from "./tomorrow";
import { FileButton } from "../inputs/FileButton";

const OPEN_FIELD = "field";
const AS_IT_IS = "as it is";
const NOT_SAID = "not said";

const SETTINGS: Record<NonNullable<NewSession["setting"]>, string> = {
  land: "On land",
  water: "Over water, from the shore",
  boat: "From a boat",
  car: "From a car",
  cliff: "On a cliff or ridge",
  town: "In town",
  indoors: "Indoors",
};

/** Where something is, where that is known. */
function positionOf(
  thing: { latitude: number | null; longitude: number | null } | undefined,
): Position | null {
  if (thing?.latitude == null || thing.longitude == null) return null;
  return { latitude: thing.latitude, longitude: thing.longitude };
}

/** A session like another one, over an open field, or from a plan file. */
export function NewSessionDialog({
  sessions,
  onClose,
  onMade,
}: {
  sessions: SessionSummary[];
  onClose: () => void;
  onMade: (id: number) => void;
}) {
  const actions = useSessionActions();
  const [title, setTitle] = useState("");
  const [when, setWhen] = useState(tomorrowMorning);
  const [from, setFrom] = useState(sessions[0] ? String(sessions[0].id) : OPEN_FIELD);
  const [place, setPlace] = useState({ name: "", position: "" });
  const drawn = usePlaces().data ?? [];
  const kit = useKit().data ?? [];
  const [aircraft, setAircraft] = useState(AS_IT_IS);
  const [pack, setPack] = useState(NOT_SAID);
  const [at, setAt] = useState(AS_IT_IS);
  const [setting, setSetting] = useState(AS_IT_IS);
  const [tried, setTried] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const field = from === OPEN_FIELD && at === AS_IT_IS;
  const position = readPosition(place.position);
  const like = sessions.find((s) => String(s.id) === from);
  const drawnAt = drawn.find((p) => String(p.id) === at);
  // By the clock at the place; where that is not known yet, by this machine's.
  const zone = useTimeZone(field ? position : (positionOf(drawnAt) ?? positionOf(like)));
  const offset = zone ? offsetIn(zone, when) : offsetHere(when || tomorrowMorning());
  const flying = kit.filter((k) => k.item.kind === "aircraft");
  const fits = (k: Kept) =>
    k.item.kind === "pack" &&
    k.pack!.choosable &&
    (aircraft === AS_IT_IS || k.item.aircraft === null || String(k.item.aircraft) === aircraft);
  const packs = kit.filter(fits);
  const faults = {
    title: title.trim() === "" ? "Give the session a title." : null,
    when: when.length !== 16 ? "Give a date and a time." : null,
    name: field && place.name.trim() === "" ? "Give the place a name." : null,
    position: field && position === null ? "Give the position of the place." : null,
  };

  const finish = async (work: Promise<{ id: number }>) => {
    setProblem(null);
    try {
      onMade((await work).id);
    } catch (cause) {
      setProblem(cause instanceof Problem ? cause : new Problem(0, String(cause)));
    }
  };

  const make = () => {
    setTried(true);
    if (Object.values(faults).some((fault) => fault !== null)) return;
    const body: NewSession = {
      title: title.trim(),
      takeoff_at: isoOf({ local: when, offset }),
      start_from: from === OPEN_FIELD ? null : Number(from),
      at_place: at === AS_IT_IS ? null : Number(at),
      setting: setting === AS_IT_IS ? null : (setting as NonNullable<NewSession["setting"]>),
      place: field
        ? { name: place.name.trim(), ...position! }
        : from === OPEN_FIELD
          ? { name: "Open field", latitude: 0, longitude: 0 } // moved to the drawn place at once
          : null,
      aircraft: aircraft === AS_IT_IS ? null : Number(aircraft),
      pack: pack === NOT_SAID ? null : Number(pack),
    };
    void finish(actions.begin.mutateAsync(body));
  };

  const text = (
    key: keyof typeof faults,
    label: string,
    value: string,
    set: (v: string) => void,
  ) => (
    <TextField
      fullWidth
      margin="dense"
      label={label}
      value={value}
      error={tried && faults[key] !== null}
      helperText={tried ? faults[key] : undefined}
      onChange={(e) => set(e.target.value)}
      autoFocus={key === "title"}
      slotProps={{ htmlInput: { maxLength: 120 } }}
    />
  );

  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="new-title">
      <DialogTitle id="new-title">New session</DialogTitle>
      <DialogContent>
        {text("title", "Title", title, setTitle)}
        <TextField
          type="datetime-local"
          fullWidth
          margin="dense"
          label={`Take-off (UTC${offset})`}
          value={when}
          error={tried && faults.when !== null}
          helperText={(tried && faults.when) || (zone ? `By the clock in ${zone}.` : undefined)}
          onChange={(e) => setWhen(e.target.value)}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <TextField
          select
          fullWidth
          margin="dense"
          label="Start from"
          value={from}
          onChange={(e) => setFrom(e.target.value)}
          helperText={
            field
              ? "A light aircraft over open ground. Change anything you like."
              : "Place, aircraft, subjects and settings are copied; weather, battery and what is looked at on site are asked again."
          }
        >
          {sessions.map((s) => (
            <MenuItem key={s.id} value={String(s.id)}>
              {s.title}
            </MenuItem>
          ))}
          <MenuItem value={OPEN_FIELD}>An open field</MenuItem>
        </TextField>
        {drawn.length > 0 && (
          <TextField
            select
            fullWidth
            margin="dense"
            label="At the place"
            value={at}
            onChange={(e) => setAt(e.target.value)}
          >
            <MenuItem value={AS_IT_IS}>Same place</MenuItem>
            {drawn.map((p) => (
              <MenuItem key={p.id} value={String(p.id)}>
                {p.name}
              </MenuItem>
            ))}
          </TextField>
        )}
        <TextField
          select
          fullWidth
          margin="dense"
          label="What kind of place"
          value={setting}
          onChange={(e) => setSetting(e.target.value)}
        >
          <MenuItem value={AS_IT_IS}>Same place</MenuItem>
          {Object.entries(SETTINGS).map(([key, words]) => (
            <MenuItem key={key} value={key}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        {flying.length > 0 && (
          <TextField
            select
            fullWidth
            margin="dense"
            label="Aircraft"
            value={aircraft}
            onChange={(e) => {
              setAircraft(e.target.value);
              setPack(NOT_SAID);
            }}
          >
            <MenuItem value={AS_IT_IS}>
              {like ? `${like.aircraft}, as in “${like.title}”` : "A typical light one"}
            </MenuItem>
            {flying.map((k) => (
              <MenuItem key={k.id} value={String(k.id)}>
                {k.name}
              </MenuItem>
            ))}
          </TextField>
        )}
        {packs.length > 0 && (
          <TextField
            select
            fullWidth
            margin="dense"
            label="Battery of the first flight"
            value={pack}
            onChange={(e) => setPack(e.target.value)}
          >
            <MenuItem value={NOT_SAID}>Not said yet</MenuItem>
            {packs.map((k) => (
              <MenuItem key={k.id} value={String(k.id)}>
                {k.name}, about {Math.round(k.pack!.charge_pct)}% now
              </MenuItem>
            ))}
          </TextField>
        )}
        {field && (
          <>
            {text("name", "Name of the place", place.name, (name) => setPlace({ ...place, name }))}
            <PositionInput
              text={place.position}
              known={drawn.flatMap((p) => {
                const known = positionOf(p);
                return known ? [{ name: p.name, ...known }] : [];
              })}
              fault={tried ? faults.position : null}
              onChange={(v) => setPlace({ ...place, position: v })}
            />
          </>
        )}
        {problem && <ProblemNote problem={problem} />}
        <Typography variant="body2" color="text.secondary" sx={{ mt: 2 }}>
          Or take one <Link to="/shared">from another pilot</Link>, or open a plan file:
        </Typography>
        <FileButton
          variant="outlined"
          sx={{ mt: 0.5 }}
          words="Choose a plan file"
          accept=".json,application/json"
          onFile={(file) =>
            void finish(file.text().then((raw) => actions.importPlan.mutateAsync(raw)))
          }
        />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" onClick={make} disabled={actions.begin.isPending}>
          Create session
        </Button>
      </DialogActions>
    </Dialog>
  );
}
