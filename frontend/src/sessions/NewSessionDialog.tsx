import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Problem, type NewSession, type SessionSummary } from "../api/client";
import { usePlaces } from "../api/places";
import { useSessionActions } from "../api/queries";
import { ProblemNote } from "../frame/notes";
import { isoOf, offsetHere } from "../frame/time";

const OPEN_FIELD = "field";
const AS_IT_IS = "as it is";

function tomorrowMorning(): string {
  const at = new Date(Date.now() + 24 * 3600_000);
  const two = (n: number) => String(n).padStart(2, "0");
  return `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}T08:00`;
}

function degrees(text: string, most: number): number | null {
  const value = Number(text.trim().replace(",", ".").replace("−", "-"));
  return text.trim() !== "" && Number.isFinite(value) && Math.abs(value) <= most ? value : null;
}

const SETTINGS: Record<NonNullable<NewSession["setting"]>, string> = {
  land: "On land",
  water: "Over water, from the shore",
  boat: "From a boat",
  car: "From a car",
  cliff: "On a cliff or ridge",
  town: "In town",
  indoors: "Indoors",
};

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
  const [place, setPlace] = useState({ name: "", latitude: "", longitude: "" });
  const drawn = usePlaces().data ?? [];
  const [at, setAt] = useState(AS_IT_IS);
  const [setting, setSetting] = useState(AS_IT_IS);
  const [tried, setTried] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const field = from === OPEN_FIELD && at === AS_IT_IS;
  const latitude = degrees(place.latitude, 90);
  const longitude = degrees(place.longitude, 180);
  const faults = {
    title: title.trim() === "" ? "Give the session a title." : null,
    when: when.length !== 16 ? "Give a date and a time." : null,
    name: field && place.name.trim() === "" ? "Give the place a name." : null,
    latitude: field && latitude === null ? "Degrees from −90 to 90, north is plus." : null,
    longitude: field && longitude === null ? "Degrees from −180 to 180, east is plus." : null,
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
      takeoff_at: isoOf({ local: when, offset: offsetHere(when) }),
      start_from: from === OPEN_FIELD ? null : Number(from),
      at_place: at === AS_IT_IS ? null : Number(at),
      setting: setting === AS_IT_IS ? null : (setting as NonNullable<NewSession["setting"]>),
      place: field
        ? { name: place.name.trim(), latitude: latitude!, longitude: longitude! }
        : from === OPEN_FIELD
          ? { name: "Open field", latitude: 0, longitude: 0 } // moved to the drawn place at once
          : null,
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
          label={`Lift-off (UTC${offsetHere(when || tomorrowMorning())})`}
          value={when}
          error={tried && faults.when !== null}
          helperText={tried ? faults.when : undefined}
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
              ? "A light aircraft over open ground, for you to change."
              : "Place, aircraft, weather and settings are copied; satellites and home point are asked again."
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
            <MenuItem value={AS_IT_IS}>As it starts</MenuItem>
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
          <MenuItem value={AS_IT_IS}>As it starts</MenuItem>
          {Object.entries(SETTINGS).map(([key, words]) => (
            <MenuItem key={key} value={key}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        {field && (
          <>
            {text("name", "Name of the place", place.name, (name) => setPlace({ ...place, name }))}
            <Box sx={{ display: "flex", gap: 1 }}>
              {text("latitude", "Latitude", place.latitude, (v) =>
                setPlace({ ...place, latitude: v }),
              )}
              {text("longitude", "Longitude", place.longitude, (v) =>
                setPlace({ ...place, longitude: v }),
              )}
            </Box>
          </>
        )}
        {problem && <ProblemNote problem={problem} />}
        <Typography variant="body2" color="text.secondary" sx={{ mt: 2 }}>
          Or open a plan file that Lark or you wrote:
        </Typography>
        <Button component="label" variant="outlined" sx={{ mt: 0.5 }}>
          Choose a plan file
          <input
            type="file"
            accept=".json,application/json"
            hidden
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = ""; // the same file may be mended and chosen again
              if (file) void finish(file.text().then((raw) => actions.importPlan.mutateAsync(raw)));
            }}
          />
        </Button>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" onClick={make} disabled={actions.begin.isPending}>
          Begin
        </Button>
      </DialogActions>
    </Dialog>
  );
}
