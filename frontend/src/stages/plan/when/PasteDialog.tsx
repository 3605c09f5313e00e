import Button from "@mui/material/Button";
import Dialog from "../../../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Plan, Problem, Report } from "../../../api/client";
import { useWeatherActions } from "../../../api/weather";
import { ProblemNote } from "../../../shell/notes";
import { Choice } from "../../../inputs/fields";
import { FileButton } from "../../../inputs/FileButton";

type Kind = "metar" | "taf" | "csv";

const EXAMPLES: Record<Kind, string> = {
  metar: "METAR ZZZZ 260450Z 24006G12MPS 9999 SCT030 06/04 Q1018",
  taf: "TAF ZZZZ 260430Z 2605/2614 24012G22KT 9999 BKN025 BECMG 2609/2611 27015G28KT",
  csv: "time,height_m,speed_ms,direction_deg,gust_ms,temperature_c\n2026-11-26T06:00Z,10,3.2,240,5.1,4.5",
};

/** A report as text: pasted, or out of a file. */
export function PasteDialog({
  plan,
  onClose,
  onRead,
}: {
  plan: Plan;
  onClose: () => void;
  onRead: (report: Report) => void;
}) {
  const { read } = useWeatherActions();
  const [kind, setKind] = useState<Kind>("metar");
  const [text, setText] = useState("");
  const [name, setName] = useState("");
  const keep = () => read.mutate({ kind, text, name, plan }, { onSuccess: onRead });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="paste">
      <DialogTitle id="paste">Paste a weather report</DialogTitle>
      <DialogContent>
        <Choice
          label="What it is"
          value={kind}
          options={{
            metar: "METAR, an aerodrome's observation",
            taf: "TAF, an aerodrome's forecast",
            csv: "Table of comma-separated values",
          }}
          onChange={setKind}
        />
        <TextField
          fullWidth
          multiline
          minRows={4}
          maxRows={12}
          margin="dense"
          label="Text"
          placeholder={EXAMPLES[kind]}
          value={text}
          onChange={(e) => setText(e.target.value)}
          slotProps={{ htmlInput: { spellCheck: false, style: { fontFamily: "monospace" } } }}
        />
        <FileButton
          size="small"
          words="Open a file"
          accept=".txt,.csv,text/plain,text/csv"
          onFile={(file) => {
            setName(file.name.slice(0, 100));
            if (file.name.toLowerCase().endsWith(".csv")) setKind("csv");
            void file.text().then(setText);
          }}
        />
        <Typography variant="body2" color="text.secondary">
          It is kept for this place with its age. An aerodrome may lie far from where you fly.
        </Typography>
        {read.error && <ProblemNote problem={read.error as Problem} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" disabled={text.trim() === "" || read.isPending} onClick={keep}>
          Read it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
