import { client, take, type Plan, type Session } from "../../api/client";
import { useEditor } from "../../editing/useEditor";
import { reduce } from "./edit";

function put(sessionId: number) {
  return (plan: Plan, revision: number) =>
    take(
      client.PUT("/api/sessions/{session_id}", {
        params: { path: { session_id: sessionId } },
        body: { plan, revision },
        keepalive: true, // the last change still goes out when the window closes
      }),
    );
}

/** The plan of an open session: changed at once, judged as it is, saved behind. */
export function usePlanEditor(session: Session) {
  const { id, plan, revision } = session;
  const { document, ...editor } = useEditor<Plan>({
    name: String(id),
    document: plan,
    revision,
    put: put(id),
    reduce,
  });
  return { plan: document, ...editor };
}
