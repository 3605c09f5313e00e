import Box from "@mui/material/Box";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { client, take, type SessionSummary } from "../api/client";
import { useUnits } from "../shell/preferences";
import { VERDICT_WORDS, VerdictMark } from "../shell/marks";
import { clock, day } from "../shell/time";
import { daysAhead, type Day } from "./days";

const ROW_PX = 26;
const SOON_MS = 48 * 3600_000;

/** The launch windows of a session's own plan, in the two days that are looked at. */
function useWindows(session: SessionSummary | undefined) {
  const units = useUnits();
  return useQuery({
    queryKey: ["sessions", "windows", session?.id, session?.takeoff_at, units],
    queryFn: async ({ signal }) => {
      const path = { path: { session_id: session!.id } };
      const { plan } = await take(
        client.GET("/api/sessions/{session_id}", { params: path, signal }),
      );
      if (plan.site.indoors) return [];
      const body = { plan, report: null };
      const query = { params: { query: units }, body, signal };
      return (await take(client.POST("/api/windows", query))).planned;
    },
    enabled: session !== undefined,
    staleTime: 5 * 60_000,
    retry: false,
  });
}

/** The week ahead as a strip: each day from midnight to midnight, its sessions' verdicts, the launch windows known. */
export function DaysAhead({ sessions, now }: { sessions: SessionSummary[]; now: Date }) {
  const [next] = sessions
    .filter((s) => Date.parse(s.takeoff_at) - now.getTime() < SOON_MS)
    .sort((a, b) => Date.parse(a.takeoff_at) - Date.parse(b.takeoff_at));
  const { data: windows } = useWindows(next);
  const days = daysAhead(sessions, windows ?? [], now);
  if (days.every((d) => d.marks.length === 0)) return null;
  const rows = Math.max(1, ...days.flatMap((d) => d.marks.map((m) => m.row + 1)));
  return (
    <Paper
      component="section"
      aria-label="The week ahead"
      variant="outlined"
      sx={{ borderRadius: "14px", mb: 2, px: 1.5, py: 1 }}
    >
      <Box sx={{ display: "grid", gridTemplateColumns: `repeat(${days.length}, minmax(0,1fr))` }}>
        {days.map((d) => (
          <OneDay key={d.date} day={d} rows={rows} />
        ))}
      </Box>
      <Typography variant="body2" color="text.secondary">
        Each day from midnight to midnight, 6, 12 and 18 marked.{" "}
        {next && windows && windows.length > 0
          ? `Bars: launch windows of “${next.title}”.`
          : "No launch window is known for the next session."}
      </Typography>
    </Paper>
  );
}

function OneDay({ day: { date, marks, windows }, rows }: { day: Day; rows: number }) {
  const share = (hour: number) => `${(100 * hour) / 24}%`;
  return (
    <Box sx={{ px: 0.5, minWidth: 0, borderLeft: 1, borderColor: "divider" }}>
      <Typography variant="body2" sx={{ fontWeight: marks.length ? 750 : 400 }} noWrap title={date}>
        {day(`${date}T00:00Z`).slice(0, -5)}
      </Typography>
      <Box sx={{ position: "relative", height: ROW_PX * rows + 14 }}>
        {marks.map(({ session, hour, row }) => (
          <Box
            key={session.id}
            component={Link}
            to={`/sessions/${session.id}/plan`}
            title={`${session.title}, ${clock(session.takeoff_at)}`}
            aria-label={`${session.title}, ${day(session.takeoff_at)}, ${clock(session.takeoff_at)}: ${VERDICT_WORDS[session.verdict]}`}
            sx={{
              position: "absolute",
              left: share(hour),
              top: row * ROW_PX,
              transform: "translateX(-50%)",
              lineHeight: 0,
              p: 0.25,
            }}
          >
            <VerdictMark verdict={session.verdict} size={20} />
          </Box>
        ))}
        <Box
          component="svg"
          width="100%"
          height="12"
          aria-hidden="true"
          sx={{ position: "absolute", left: 0, bottom: 0 }}
        >
          <line x1="0" x2="100%" y1="6" y2="6" stroke="var(--line)" strokeWidth="2" />
          {[6, 12, 18].map((hour) => (
            <line
              key={hour}
              x1={share(hour)}
              x2={share(hour)}
              y1="2"
              y2="10"
              stroke="var(--muted)"
            />
          ))}
          {windows.map(({ from, to }) => (
            <rect
              key={from}
              x={share(from)}
              width={share(to - from)}
              y="3"
              height="6"
              rx="3"
              fill="var(--launch)"
            />
          ))}
        </Box>
      </Box>
    </Box>
  );
}
