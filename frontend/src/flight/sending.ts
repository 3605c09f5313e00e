import { changedByServer, sessionDocument } from "../editing/opened";
import { client, isRefused, take, type FlightEvent } from "../api/client";
import { refusalWords } from "../api/refusals";
import {
  forgetFlight,
  keepFlight,
  keptFlights,
  landedEvent,
  latest,
  unsent,
  type FlightRecord,
} from "./record";

export type Outcome = "sent" | "nothing" | "out_of_reach" | { refused: string };

/** How events go up; given in tests. */
export type Put = (
  uid: string,
  body: { session: number; decision: number | null; events: FlightEvent[]; sent_at: string },
) => Promise<unknown>;

const put: Put = (uid, body) =>
  take(
    client.PUT("/api/flights/{uid}/events", { params: { path: { uid } }, body, keepalive: true }),
  );

let running: Promise<Outcome> | null = null;

/**
 * Send what the server does not have of the flights that are kept here, and let go of those that have
 * landed and are with it whole. Read from the store and written back to it, so that nothing hangs on
 * the page that entered it; one at a time.
 */
export function sendUp(by: Put = put): Promise<Outcome> {
  running ??= sendAll(by).finally(() => {
    running = null;
  });
  return running;
}

async function sendAll(by: Put): Promise<Outcome> {
  let outcome: Outcome = "nothing";
  for (const record of keptFlights()) {
    const done = await send(record, by);
    if (done !== "nothing") outcome = done;
    const now = latest(record);
    if (landedEvent(now) && unsent(now).length === 0) forgetFlight(now);
  }
  return outcome;
}

async function send(record: FlightRecord, by: Put): Promise<Outcome> {
  const events = unsent(record);
  if (events.length === 0) return "nothing";
  try {
    await by(record.uid, {
      session: record.session,
      decision: record.decision,
      events,
      sent_at: new Date().toISOString(),
    });
  } catch (error) {
    if (isRefused(error))
      return {
        refused: error.refusals[0] ? refusalWords(error.refusals[0]) : error.message,
      };
    return "out_of_reach";
  }
  // Meanwhile more may have happened: only what was sent now is marked.
  const now = latest(record);
  keepFlight({ ...now, sent: [...now.sent, ...events.map((e) => e.uid)] });
  if (events.some((e) => e.kind === "landed")) changedByServer(sessionDocument(record.session));
  return "sent";
}
