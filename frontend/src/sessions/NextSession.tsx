import { Navigate, useLocation } from "react-router";
import type { Problem, SessionSummary } from "../api/client";
import { useSessions } from "../api/queries";
import { keptFlights, landedEvent } from "../flight/record";
import { ProblemNote, Waiting } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { useNow } from "../shell/useNow";

const HOUR_MS = 3_600_000;
const BEFORE_MS = 2 * HOUR_MS;
const AFTER_MS = 6 * HOUR_MS;

/** The session that is flown now or next, and the stage it is at; null without any. */
export function nextSession(
  sessions: Pick<SessionSummary, "id" | "takeoff_at">[],
  now: number,
): { id: number; stage: "site" | "plan" } | null {
  const by = (s: { takeoff_at: string }) => Date.parse(s.takeoff_at) - now;
  const [next] = [...sessions].filter((s) => by(s) > -AFTER_MS).sort((a, b) => by(a) - by(b));
  return next ? { id: next.id, stage: by(next) < BEFORE_MS ? "site" : "plan" } : null;
}

/** Where the shortcuts of a phone lead: to what is in the air, else to today’s session. */
export function NextSession() {
  const { hash } = useLocation();
  const sessions = useSessions(useUnits());
  const now = useNow();
  const aloft = keptFlights().find((flight) => !landedEvent(flight));
  if (aloft) return <Navigate to={`/sessions/${aloft.session}/flight${hash}`} replace />;
  if (sessions.error)
    return (
      <ProblemNote
        problem={sessions.error as Problem}
        again={() => void sessions.refetch()}
        back={{ to: "/sessions", words: "All sessions" }}
      />
    );
  if (!sessions.data) return <Waiting what="today’s session" />;
  const next = nextSession(sessions.data.sessions, now.getTime());
  const to = next ? `/sessions/${next.id}/${next.stage}${hash}` : "/sessions";
  return <Navigate to={to} replace />;
}
