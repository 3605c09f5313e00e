import { useEffect } from "react";
import { Outlet, useMatches, useOutletContext, useParams } from "react-router";
import { client, take, type Plan, type Problem, type Session } from "../api/client";
import { useSession } from "../api/queries";
import { ClashDialog } from "../editing/ClashDialog";
import { alreadyOpen, sessionDocument } from "../editing/opened";
import type { Path } from "../editing/history";
import type { Kept } from "../editing/openDocument";
import { useEditor, type Editor } from "../editing/useEditor";
import { ProblemNote, Waiting } from "../shell/notes";
import { keptUnits, useUnits } from "../shell/preferences";
import { reduce } from "./plan/edit";
import { fieldWords } from "./plan/fields";

export interface Room {
  id: number;
  editor: Omit<Editor<Plan>, "document"> & { plan: Plan };
  /** When the session was changed last, as the server knew it when it was opened. */
  revision: number;
}

const kept = ({ plan, revision }: Session): Kept<Plan> => ({ document: plan, revision });

function source(id: number) {
  // In the pilot's units, as the page asks for it: what is taken along follows the answers to that question.
  const params = () => ({ path: { session_id: id }, query: keptUnits() });
  return {
    name: sessionDocument(id),
    put: async (plan: Plan, revision: number) =>
      kept(
        await take(
          client.PUT("/api/sessions/{session_id}", {
            params: params(),
            body: { plan, revision },
            keepalive: true, // the last change still goes out when the window closes
          }),
        ),
      ),
    get: async () =>
      kept(await take(client.GET("/api/sessions/{session_id}", { params: params() }))),
    reduce,
    unasked: (path: Path) =>
      path[0] === "weather" && ["as_of", "provenance"].includes(String(path[1])),
  };
}

/**
 * An open session. Every page of it, in the air and after it too, shows the one plan that is open in this window.
 * A page with the handle `alone` also opens without the server.
 */
export function SessionRoom() {
  const id = Number(useParams().sessionId);
  return <OpenRoom key={id} id={id} />;
}

function OpenRoom({ id }: { id: number }) {
  const units = useUnits();
  const session = useSession(id, units);
  const alone = useMatches().some(
    (match) => (match.handle as { alone?: boolean } | undefined)?.alone,
  );
  const open = alreadyOpen<Plan>(sessionDocument(id))?.snapshot();
  const editor = useEditor(
    source(id),
    session.data
      ? kept(session.data)
      : open && { document: open.history.document, revision: open.revision },
  );
  const { refetch } = session;
  const missing = !session.data && session.error !== null;
  useEffect(() => {
    if (!missing || (session.error as Problem).status !== 0) return;
    const timer = setInterval(() => void refetch(), 5_000);
    return () => clearInterval(timer);
  }, [missing, session.error, refetch]);

  if (!editor && !alone) {
    if (session.isPending) return <Waiting what="the session" />;
    return (
      <ProblemNote
        problem={session.error as Problem}
        again={() => void session.refetch()}
        back={{ to: "/sessions", words: "All sessions" }}
      />
    );
  }
  const revision = session.data?.revision ?? 0;
  const room = editor && { id, revision, editor: { ...editor, plan: editor.document } };
  return (
    <>
      {editor && (
        <ClashDialog editor={editor} what="plan" words={(clash) => fieldWords(clash.path, units)} />
      )}
      <Outlet context={room satisfies Room | null} />
    </>
  );
}

/** The session that a page is part of, and the editor of its plan. */
export function useRoom(): Room {
  return useOutletContext<Room>();
}

/** The same on a page that also opens without the server: null until the plan is here. */
export function useRoomIfOpen(): Room | null {
  return useOutletContext<Room | null>();
}
