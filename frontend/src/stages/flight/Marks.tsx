import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "../../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Snackbar from "@mui/material/Snackbar";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { Panel } from "../../shell/Panel";
import { useUnits } from "../../shell/preferences";
import { written } from "../../units/units";
import type { InFlight } from "../../flight/useFlight";

/** What is worth keeping of a flight, in one touch; words can follow on the ground. */
export function Marks({ flight }: { flight: InFlight }) {
  const units = useUnits();
  const [said, setSaid] = useState<string | null>(null);
  const [writing, setWriting] = useState(false);
  const [text, setText] = useState("");
  const { record } = flight;
  const kept = record.events.filter((e) => ["signal", "near_miss", "note"].includes(e.kind)).length;
  return (
    <Panel title="Marks" hint={kept ? `${kept} saved` : "saved with place and time"}>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        <Button
          variant="outlined"
          sx={{ minHeight: 52 }}
          onClick={() => {
            flight.put("signal", {
              value: record.distance_m,
              bearing_deg: record.plan.bearing_deg,
              text: "Video broke up",
            });
            setSaid(`Saved: video broke up at ${written(record.distance_m, "length", units)}.`);
          }}
        >
          Video broke up
        </Button>
        <Button
          variant="outlined"
          sx={{ minHeight: 52 }}
          onClick={() => {
            flight.put("near_miss", { text: "Near miss" });
            setSaid("Saved: near miss.");
          }}
        >
          Near miss
        </Button>
        <Button variant="outlined" sx={{ minHeight: 52 }} onClick={() => setWriting(true)}>
          Note
        </Button>
      </Box>
      <Dialog open={writing} onClose={() => setWriting(false)} fullWidth maxWidth="xs">
        <DialogTitle>Note</DialogTitle>
        <DialogContent>
          <TextField
            autoFocus
            fullWidth
            multiline
            label="What happened"
            value={text}
            onChange={(e) => setText(e.target.value.slice(0, 500))}
            sx={{ mt: 1 }}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setWriting(false)}>Leave</Button>
          <Button
            variant="contained"
            disabled={!text.trim()}
            onClick={() => {
              flight.put("note", { text: text.trim() });
              setText("");
              setWriting(false);
            }}
          >
            Keep it
          </Button>
        </DialogActions>
      </Dialog>
      <Snackbar
        open={said !== null}
        autoHideDuration={3000}
        onClose={() => setSaid(null)}
        message={said}
      />
    </Panel>
  );
}
