import Button from "@mui/material/Button";
import Dialog from "../../../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { ForecastHead, Plan, Problem, Report } from "../../../api/client";
import { useForecastFile, useWeatherActions } from "../../../api/weather";
import { ProblemNote } from "../../../shell/notes";
import { Choice } from "../../../inputs/fields";
import { FileButton } from "../../../inputs/FileButton";
import { ForecastColumns, missing, type Chosen } from "./ForecastColumns";

type Kind = "metar" | "taf" | "csv";

const EXAMPLES: Record<Kind, string> = {
  metar: "METAR ZZZZ 260450Z 24006G12MPS 9999 SCT030 06/04 Q1018",
  taf: "TAF ZZZZ 260430Z 2605/2614 24012G22KT 9999 BKN025 BECMG 2609/2611 27015G28KT",
  csv: "time,height_m,speed_ms,direction_deg,gust_ms,temperature_c\n2026-11-26T06:00Z,10,3.2,240,5.1,4.5",
};

/** Opened files that are text of a report, and no forecast by the hour. */
const REPORT = /^\s*(METAR|SPECI|TAF)\b/;

/** A report as text, pasted or out of a file; or a forecast out of a file of any kind that Lark reads. */
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
  const [table, setTable] = useState<{ file: File; head: ForecastHead } | null>(null);
  const [chosen, setChosen] = useState<Chosen>({ columns: {}, height_m: null });
  const { site } = plan;
  const file = useForecastFile();
  const busy = read.isPending || file.head.isPending || file.keep.isPending;
  const problem = (
    table ? file.keep.error : (file.head.error ?? file.keep.error ?? read.error)
  ) as Problem | null;
  const keepFile = (given: File, of: Chosen | null) =>
    file.keep.mutate({ file: given, site, chosen: of }, { onSuccess: onRead });
  const keep = () =>
    table
      ? keepFile(table.file, { ...chosen, height_m: chosen.height_m ?? 10 })
      : read.mutate({ kind, text, name, plan }, { onSuccess: onRead });
  const open = async (given: File) => {
    read.reset();
    file.keep.reset();
    const begin = await given.slice(0, 100).text();
    if (REPORT.test(begin)) {
      setKind(/^\s*TAF/.test(begin) ? "taf" : "metar");
      setName(given.name.slice(0, 100));
      setText(await given.text());
      return;
    }
    file.head.mutate(given, {
      onSuccess: (head) => {
        if (head.known) return keepFile(given, null);
        setChosen({ columns: head.guess, height_m: head.height_m });
        setTable({ file: given, head });
      },
    });
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="paste">
      <DialogTitle id="paste">Import weather</DialogTitle>
      <DialogContent>
        {table ? (
          <ForecastColumns head={table.head} chosen={chosen} choose={setChosen} />
        ) : (
          <>
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
              accept=".txt,.csv,.tsv,.grb,.grb2,.grib,.grib2,.nc,.json,.covjson"
              onFile={(given) => void open(given)}
            />
            <Typography variant="body2" color="text.secondary">
              A report as text, a table, GRIB, classic netCDF or CoverageJSON.
            </Typography>
          </>
        )}
        <Typography variant="body2" color="text.secondary">
          It is kept for this place with its age.
          {!table && " An aerodrome may lie far from where you fly."}
        </Typography>
        {busy && <Typography role="status">Reading…</Typography>}
        {problem && <ProblemNote problem={problem} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={busy || (table ? missing(chosen) !== null : text.trim() === "")}
          onClick={keep}
        >
          Import
        </Button>
      </DialogActions>
    </Dialog>
  );
}
