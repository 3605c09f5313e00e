import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";
import type { Plan, Problem, Report } from "../../../api/client";
import { useAskAll } from "../../../api/forecasts";
import { useReports, useSources } from "../../../api/weather";
import { ProblemNote } from "../../../shell/notes";
import { ago } from "../../../shell/time";
import { useNow } from "../../../shell/useNow";
import { PasteDialog } from "./PasteDialog";

/** What weather is known here and how old it is, and where more comes from. */
export function Sources({
  plan,
  report,
  chosen,
  choose,
}: {
  plan: Plan;
  report: Report | null;
  chosen: number | null;
  choose: (report: number | null) => void;
}) {
  const now = useNow();
  const sources = useSources();
  const reports = useReports(plan.site.latitude, plan.site.longitude);
  const ask = useAskAll();
  const [pasting, setPasting] = useState(false);
  const known = reports.data ?? [];
  const listed = report && !known.some((r) => r.id === report.id) ? [report, ...known] : known;
  const connected = sources.data ?? [];
  const silent = (ask.data ?? []).filter((a) => a.why !== null);
  const control = connected.find((s) => s.control)?.control;

  return (
    <Box sx={{ mb: 1 }}>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center" }}>
        {connected.length > 0 && (
          <Button
            variant="outlined"
            disabled={ask.isPending}
            onClick={() =>
              ask.mutate(plan, {
                onSuccess: (asked) => {
                  const first = asked.find((a) => a.report && a.report.hours > 1)?.report;
                  if (first && chosen !== null) choose(first.id);
                },
              })
            }
          >
            {ask.isPending ? "Asking…" : "Get the forecasts"}
          </Button>
        )}
        <Button onClick={() => setPasting(true)}>Paste or open a report</Button>
        <Button component={Link} to="/forecasts">
          {sources.data && connected.length === 0 ? "Add a forecast service" : "Forecast services"}
        </Button>
        {control && (
          <Button component="a" href={control} target="_blank" rel="noreferrer">
            Simulated weather
          </Button>
        )}
      </Box>
      {ask.isPending && (
        <Typography role="status" variant="body2" color="text.secondary">
          Asking {connected.map((s) => s.name).join(", ")}. What you have stays until it arrives.
        </Typography>
      )}
      {ask.error && <ProblemNote problem={ask.error as Problem} again={() => ask.mutate(plan)} />}
      {silent.length > 0 && (
        <Typography role="alert" variant="body2" sx={{ my: 0.5 }}>
          {silent.map((a) => `${a.name}: ${a.why}`).join(". ")}. What it said before stays.
        </Typography>
      )}
      {listed.length > 0 && (
        <TextField
          select
          fullWidth
          size="small"
          margin="dense"
          label="Forecast shown by the hour"
          value={chosen ?? report?.id ?? ""}
          onChange={(e) => choose(Number(e.target.value))}
        >
          {listed.map((r) => (
            <MenuItem key={r.id} value={r.id}>
              {r.name}, {r.hours > 1 ? "issued" : "seen"} {ago(new Date(r.issued_at), now)}
            </MenuItem>
          ))}
        </TextField>
      )}
      {pasting && (
        <PasteDialog
          plan={plan}
          onClose={() => setPasting(false)}
          onRead={(made) => {
            setPasting(false);
            if (made.hours > 1) choose(made.id);
          }}
        />
      )}
    </Box>
  );
}
