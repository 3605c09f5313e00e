import AddIcon from "@mui/icons-material/Add";
import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Pagination from "@mui/material/Pagination";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import {
  EVERYTHING,
  queryOf,
  useAddFlight,
  useLogbook,
  useLogbookSummary,
  type Wanted,
} from "../api/flights";
import type { Flight, Problem, Verdict } from "../api/client";
import { VerdictMark } from "../shell/marks";
import { ProblemNote, Waiting } from "../shell/notes";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { moment } from "../shell/time";
import { written } from "../units/units";
import { inClock } from "../flight/words";
import { HeldOverLogbook } from "./HeldForecasts";
import { ArchivePanel } from "./ArchivePanel";
import { EntryDialog } from "./EntryDialog";
import { Filters } from "./Filters";
import { Learning } from "./Learning";
import { LogbookCharts } from "./LogbookCharts";
import { emptyEntry, hours, overPlan, spent } from "./words";

const NAMES = Object.keys(EVERYTHING) as (keyof Wanted)[];

/** What was flown, what it came to, and what it teaches. The filter stands in the address. */
export function LogbookPage() {
  const [params, setParams] = useSearchParams();
  const wanted = Object.fromEntries(
    NAMES.map((n) => [n, params.get(n) ?? ""]),
  ) as unknown as Wanted;
  const page = Number(params.get("page") ?? 1) || 1;
  const logbook = useLogbook(wanted, page);
  const summary = useLogbookSummary(wanted);
  const add = useAddFlight();
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  useEffect(() => {
    document.title = "Logbook · Lark";
  }, []);
  const change = (next: Partial<Wanted>, to = 1) => {
    const values = { ...wanted, ...next, page: to === 1 ? "" : String(to) };
    setParams(Object.fromEntries(Object.entries(values).filter(([, v]) => v !== "")), {
      replace: true,
    });
  };
  const total = logbook.data?.total;
  const filtered = NAMES.some((n) => wanted[n] !== "");
  return (
    <Box sx={{ px: { xs: 1, md: 2.5 }, py: { xs: 1, md: 2 }, maxWidth: 1300 }}>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, mb: 1 }}>
        <Box sx={{ flex: 1 }}>
          <Typography variant="h1">Logbook</Typography>
          {total && (
            <Typography color="text.secondary">
              {total.flights} {total.flights === 1 ? "flight" : "flights"}
              {filtered && " found"}, {hours(total.seconds)} in the air
            </Typography>
          )}
        </Box>
        <Button startIcon={<AddIcon />} variant="outlined" onClick={() => setAdding(true)}>
          Enter a flight
        </Button>
      </Box>
      {summary.data?.words.map((words) => (
        <Alert key={words} severity="warning" icon={false} sx={{ border: 1, mb: 1 }}>
          {words}
        </Alert>
      ))}
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,7fr) minmax(0,5fr)" },
          gap: { xs: 0, md: 1.5 },
          alignItems: "start",
        }}
      >
        <Box>
          <Filters wanted={wanted} names={summary.data?.names ?? {}} change={change} />
          {logbook.isPending && <Waiting what="the logbook" />}
          {logbook.error && (
            <ProblemNote problem={logbook.error as Problem} again={() => void logbook.refetch()} />
          )}
          {logbook.data && logbook.data.flights.length === 0 && (
            <Panel title="No flight" hint={filtered ? "with this filter" : "yet"}>
              <Typography>
                {filtered
                  ? "Nothing fits. Clear the filter to see all."
                  : "Flights from the flight clock appear here automatically. You can add others yourself."}
              </Typography>
            </Panel>
          )}
          <Box component="ul" aria-label="Flights" sx={{ listStyle: "none", m: 0, p: 0 }}>
            {logbook.data?.flights.map((flight) => (
              <Row key={flight.uid} flight={flight} />
            ))}
          </Box>
          {(logbook.data?.pages ?? 1) > 1 && (
            <Pagination
              sx={{ my: 1 }}
              page={page}
              count={logbook.data!.pages}
              onChange={(_, to) => change({}, to)}
            />
          )}
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, my: 1, alignItems: "center" }}>
            <Typography variant="body2">Export these flights:</Typography>
            {["csv", "gpx", "kml", "geojson"].map((form) => (
              <Button
                key={form}
                size="small"
                component="a"
                href={`/api/logbook/export/${form}?${new URLSearchParams(queryOf(wanted))}`}
                download
              >
                {form === "geojson" ? "GeoJSON" : form.toUpperCase()}
              </Button>
            ))}
          </Box>
        </Box>
        <Box>
          {summary.data && <LogbookCharts summary={summary.data} />}
          <Learning />
          <HeldOverLogbook />
          <ArchivePanel />
        </Box>
      </Box>
      {adding && (
        <EntryDialog
          title="Enter a flight"
          entry={emptyEntry(new Date())}
          problem={add.error as Problem | null}
          onClose={() => setAdding(false)}
          save={(entry) =>
            add.mutate(entry, {
              onSuccess: (made) => {
                setAdding(false);
                void navigate(`/logbook/${(made as Flight).uid}`);
              },
            })
          }
        />
      )}
    </Box>
  );
}

function Row({ flight }: { flight: Flight }) {
  const units = useUnits();
  const e = flight.entry;
  const over = overPlan(flight);
  const points = spent(e);
  const wind = e.wind_met_ms ?? e.wind_predicted_ms;
  return (
    <li>
      <Box
        component={Link}
        to={`/logbook/${flight.uid}`}
        sx={{
          display: "grid",
          gridTemplateColumns: "28px minmax(0,1fr) auto",
          gap: 1.25,
          alignItems: "center",
          minHeight: 60,
          px: 1,
          py: 0.5,
          borderTop: 1,
          borderColor: "divider",
          color: "inherit",
          textDecoration: "none",
          "&:hover": { bgcolor: "action.hover" },
        }}
      >
        {e.verdict ? <VerdictMark verdict={e.verdict as Verdict} size={24} /> : <span />}
        <Box sx={{ minWidth: 0 }}>
          <Typography sx={{ fontWeight: 700, lineHeight: 1.2 }}>{moment(e.started_at)}</Typography>
          <Typography variant="body2" color="text.secondary">
            {[
              e.place || "no place",
              e.aircraft + (e.pack ? `, battery ${e.pack}` : ""),
              wind != null && `wind ${written(wind, "speed", units)}`,
              e.distance_m != null && `${written(e.distance_m, "length", units)} out`,
              flight.has_track && "track",
              e.marks.length > 0 && (e.marks.length === 1 ? "1 mark" : `${e.marks.length} marks`),
              e.note,
            ]
              .filter(Boolean)
              .join(" · ")}
          </Typography>
        </Box>
        <Box sx={{ textAlign: "right" }}>
          <Typography sx={{ fontWeight: 700 }}>
            {e.seconds == null ? "in the air?" : `${inClock(e.seconds)} min`}
          </Typography>
          <Typography variant="body2" color="text.secondary">
            {points !== null && `−${Math.round(points)}%`}
            {over !== null &&
              Math.abs(over) >= 1 &&
              `, ${Math.abs(Math.round(over))} ${over > 0 ? "over" : "under"} plan`}
          </Typography>
        </Box>
      </Box>
    </li>
  );
}
