import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import Snackbar from "@mui/material/Snackbar";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import type { Problem, Upkeep, UpkeepEntry } from "../api/client";
import { useUpkeep, useUpkeepActions } from "../api/kit";
import { usePlaces } from "../api/places";
import { ProblemNote, Waiting } from "../shell/notes";
import { day } from "../shell/time";
import { Choice } from "../inputs/fields";
import { QuantityInput } from "../inputs/QuantityInput";
import { DUE, WORK } from "./words";

/** The upkeep of one aircraft: what is due, what was done and when; it prints as a record. */
export function UpkeepPage() {
  const id = Number(useParams().itemId);
  const upkeep = useUpkeep(id);
  const actions = useUpkeepActions(id);
  const [gone, setGone] = useState<number | null>(null);
  const name = upkeep.data?.name;
  useEffect(() => {
    document.title = `${name ?? "Aircraft"}, maintenance · Lark`;
  }, [name]);
  if (upkeep.isPending) return <Waiting what="the record" />;
  if (upkeep.error)
    return (
      <ProblemNote
        problem={upkeep.error as Problem}
        again={() => void upkeep.refetch()}
        back={{ to: "/gear", words: "Gear" }}
      />
    );
  const record = upkeep.data;
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 900 }}>
      <Box sx={{ display: "flex", alignItems: "center", flexWrap: "wrap", gap: 1 }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          {record.name}: upkeep
        </Typography>
        <Button className="no-print" component={Link} to="/gear">
          Kit
        </Button>
        <Button className="no-print" variant="outlined" onClick={() => window.print()}>
          Print the record
        </Button>
      </Box>
      <Typography color="text.secondary">
        {record.hours.toFixed(1)} h flown · as of {day(`${record.today}T00:00Z`)}
      </Typography>
      <DueList record={record} />
      <NewEntry
        key={record.entries.length}
        today={record.today}
        add={(entry) => actions.add.mutate(entry)}
        busy={actions.add.isPending}
      />
      {actions.add.error && <ProblemNote problem={actions.add.error as Problem} />}
      <Box
        component="table"
        sx={{
          width: "100%",
          overflowWrap: "anywhere",
          borderCollapse: "collapse",
          "& td, & th": { textAlign: "left", p: 0.75, borderTop: 1, borderColor: "divider" },
        }}
      >
        <thead>
          <tr>
            <th>Day</th>
            <th>What</th>
            <th>Note</th>
            <td className="no-print" />
          </tr>
        </thead>
        <tbody>
          {record.entries.map(({ id: entryId, entry }) => (
            <tr key={entryId}>
              <td style={{ whiteSpace: "nowrap" }}>{day(`${entry.day}T00:00Z`)}</td>
              <td>
                {WORK[entry.work]}
                {entry.hours > 0 && `: ${entry.hours} h`}
              </td>
              <td>
                {entry.note}
                {entry.latitude != null &&
                  ` (${entry.latitude.toFixed(3)}, ${entry.longitude!.toFixed(3)})`}
              </td>
              <td className="no-print" style={{ textAlign: "right" }}>
                <Button
                  size="small"
                  aria-label={`Withdraw ${WORK[entry.work]}, ${entry.day}`}
                  onClick={() =>
                    actions.withdraw.mutate(entryId, { onSuccess: () => setGone(entryId) })
                  }
                >
                  Withdraw
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
      {record.entries.length === 0 && (
        <Typography color="text.secondary">
          Nothing is written down yet. Calibrations, firmware, knocks and changed parts: they decide
          what is due, and they support a warranty claim.
        </Typography>
      )}
      <Snackbar
        open={gone !== null}
        autoHideDuration={12_000}
        onClose={(_, reason) => reason !== "clickaway" && setGone(null)}
        message="The entry is withdrawn."
        action={
          <Button
            color="inherit"
            onClick={() => {
              actions.restore.mutate(gone!);
              setGone(null);
            }}
          >
            Undo
          </Button>
        }
      />
    </Box>
  );
}

function DueList({ record }: { record: Upkeep }) {
  if (record.due.length === 0)
    return <Typography sx={{ my: 1.5 }}>Nothing due, going by this log.</Typography>;
  return (
    <Alert severity="warning" icon={false} sx={{ my: 1.5, border: 1 }}>
      <Typography sx={{ fontWeight: 750 }}>Due</Typography>
      <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
        {record.due.map((d) => (
          <li key={d.work}>
            <b>{DUE[d.work]}.</b> {d.why}
          </li>
        ))}
      </Box>
      <Typography variant="body2" sx={{ mt: 0.5 }}>
        Intervals are common practice; the aircraft’s manual comes first.
      </Typography>
    </Alert>
  );
}

function NewEntry({
  today,
  add,
  busy,
}: {
  today: string;
  add: (entry: UpkeepEntry) => void;
  busy: boolean;
}) {
  const places = usePlaces();
  const [entry, setEntry] = useState<UpkeepEntry>({
    day: today,
    work: "flown",
    hours: 1,
    latitude: null,
    longitude: null,
    note: "",
  });
  const set = (changed: Partial<UpkeepEntry>) => setEntry({ ...entry, ...changed });
  const located = (places.data ?? []).filter((p) => p.latitude != null);
  const at = located.find((p) => p.latitude === entry.latitude)?.id ?? "";
  return (
    <Box
      component="section"
      aria-label="Write an entry"
      className="no-print"
      sx={{ border: 1, borderColor: "divider", borderRadius: "14px", p: 1.5, mb: 1.5 }}
    >
      <Typography variant="h2">Write an entry</Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: { sm: "1fr 1fr" }, columnGap: 1.5 }}>
        <Choice
          label="What"
          value={entry.work}
          options={WORK}
          onChange={(work) =>
            set({ work, hours: work === "flown" ? 1 : 0, latitude: null, longitude: null })
          }
        />
        <TextField
          fullWidth
          size="small"
          margin="dense"
          type="date"
          label="Day"
          value={entry.day}
          onChange={(e) => e.target.value && set({ day: e.target.value })}
          slotProps={{ inputLabel: { shrink: true }, htmlInput: { max: today } }}
        />
        {entry.work === "flown" && (
          <QuantityInput
            label="In the air"
            quantity="hours"
            digits={1}
            slider={false}
            min={0}
            max={500}
            value={entry.hours}
            onChange={(hours) => set({ hours })}
          />
        )}
        {entry.work === "compass" && located.length > 0 && (
          <TextField
            select
            fullWidth
            size="small"
            margin="dense"
            label="Where"
            value={at}
            onChange={(e) => {
              const place = located.find((p) => p.id === Number(e.target.value));
              set({ latitude: place?.latitude ?? null, longitude: place?.longitude ?? null });
            }}
          >
            <MenuItem value="">not written down</MenuItem>
            {located.map((p) => (
              <MenuItem key={p.id} value={p.id}>
                {p.name}
              </MenuItem>
            ))}
          </TextField>
        )}
        <TextField
          fullWidth
          size="small"
          margin="dense"
          label="Note"
          value={entry.note}
          onChange={(e) => set({ note: e.target.value })}
          slotProps={{ htmlInput: { maxLength: 2000 } }}
        />
      </Box>
      <Button variant="contained" disabled={busy} onClick={() => add(entry)} sx={{ mt: 0.5 }}>
        Save entry
      </Button>
    </Box>
  );
}
