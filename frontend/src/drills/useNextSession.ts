import { useSessions } from "../api/queries";
import { nextSession } from "../sessions/NextSession";
import { useUnits } from "../shell/preferences";
import { useNow } from "../shell/useNow";

/** The session in which drills are flown: the one that is flown now or next. */
export function useNextSession(): number | null {
  const sessions = useSessions(useUnits());
  const now = useNow();
  return nextSession(sessions.data?.sessions ?? [], now.getTime())?.id ?? null;
}
