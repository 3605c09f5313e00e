import Alert from "@mui/material/Alert";
import { keptFlights, landedEvent, unreadFlights, unsent } from "../../flight/record";
import { useOutbox } from "../../flight/useOutbox";

/** Flights that have landed and are still waiting for the server. */
export function StrandedFlights({ sessionId }: { sessionId: number }) {
  const outbox = useOutbox();
  const waiting = keptFlights(sessionId).filter((r) => landedEvent(r) && unsent(r).length > 0);
  if (outbox.refused)
    return (
      <Alert severity="error" icon={false} sx={{ border: 1, mb: 1 }}>
        The server rejected data from this device: {outbox.refused}. It is kept here.
      </Alert>
    );
  const unread = unreadFlights(sessionId);
  if (unread > 0)
    return (
      <Alert severity="error" icon={false} sx={{ border: 1, mb: 1 }}>
        {unread === 1 ? "A flight" : `${unread} flights`} saved on this device can’t be read by this
        version of Lark. Nothing was deleted: update Lark, or enter the flight in the logbook by
        hand.
      </Alert>
    );
  if (waiting.length === 0) return null;
  return (
    <Alert severity="warning" icon={false} sx={{ border: 1, mb: 1 }}>
      {waiting.length === 1 ? "A flight" : `${waiting.length} flights`} saved on this device.
      They’ll upload when the server is back.
    </Alert>
  );
}
