import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import type { Plan, Problem, Report, Source } from "../../../api/client";
import { useReports, useSources, useWeatherActions } from "../../../api/weather";
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
  const { fetch } = useWeatherActions();
  const [options, setOptions] = useState<Record<string, string>>({});
  const [pasting, setPasting] = useState(false);
  const known = reports.data ?? [];
  const listed = report && !known.some((r) => r.id === report.id) ? [report, ...known] : known;

  const ask = (source: Source) =>
    fetch.mutate(
      {
        source: source.key,
        plan,
        options: Object.fromEntries(
          source.options.flatMap(({ name }) => (options[name] ? [[name, options[name]]] : [])),
        ),
      },
      { onSuccess: (made) => made.hours > 1 && choose(made.id) },
    );

  return (
    <Box sx={{ mb: 1 }}>
      {listed.length > 0 && (
        <TextField
          select
          fullWidth
          size="small"
          margin="dense"
          label="Forecast shown"
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
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, alignItems: "center" }}>
        {(sources.data ?? []).map((s) => (
          <Button
            key={s.key}
            variant="outlined"
            size="small"
            disabled={fetch.isPending}
            onClick={() => ask(s)}
          >
            {fetch.isPending && fetch.variables.source === s.key
              ? "Asking…"
              : `Ask the ${shortName(s)}`}
          </Button>
        ))}
        <Button size="small" onClick={() => setPasting(true)}>
          Paste or open a report
        </Button>
      </Box>
      <Simulated sources={sources.data ?? []} options={options} setOptions={setOptions} />
      {fetch.isPending && (
        <Typography role="status" variant="body2" color="text.secondary">
          Fetching… Your current data stays until it arrives.
        </Typography>
      )}
      {fetch.error && (
        <ProblemNote
          problem={fetch.error as Problem}
          again={() => fetch.variables && fetch.mutate(fetch.variables)}
        />
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

function shortName(source: Source): string {
  return source.name.replace(/^Simulated /, "simulated ");
}

/** Simulated services can be told which day to make up and how to behave; real ones have no such thing. */
function Simulated({
  sources,
  options,
  setOptions,
}: {
  sources: Source[];
  options: Record<string, string>;
  setOptions: (options: Record<string, string>) => void;
}) {
  const offered = new Map(
    sources.filter((s) => s.simulated).flatMap((s) => s.options.map((o) => [o.name, o] as const)),
  );
  if (offered.size === 0) return null;
  return (
    <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 0.5 }}>
      {[...offered.values()].map((o) => (
        <TextField
          key={o.name}
          select
          size="small"
          margin="dense"
          label={o.label}
          sx={{ minWidth: 200, flex: 1 }}
          value={options[o.name] ?? o.values[0]?.value ?? ""}
          onChange={(e) => setOptions({ ...options, [o.name]: e.target.value })}
        >
          {o.values.map((v) => (
            <MenuItem key={v.value} value={v.value}>
              {v.label}
            </MenuItem>
          ))}
        </TextField>
      ))}
    </Box>
  );
}
