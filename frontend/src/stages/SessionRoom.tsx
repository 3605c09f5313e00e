import { Outlet, useOutletContext, useParams } from "react-router";
import type { Problem, Session } from "../api/client";
import { useSession } from "../api/queries";
import { ProblemNote, Waiting } from "../frame/notes";
import { usePlanEditor } from "./plan/usePlanEditor";

interface Room {
  session: Session;
  editor: ReturnType<typeof usePlanEditor>;
}

/** An open session. All its stages work on one plan, so that none sees it as it was before the last one saved. */
export function SessionRoom() {
  const id = Number(useParams().sessionId);
  const session = useSession(id);
  if (session.isPending) return <Waiting what="the session" />;
  if (session.error)
    return (
      <ProblemNote
        problem={session.error as Problem}
        again={() => void session.refetch()}
        back={{ to: "/sessions", words: "All sessions" }}
      />
    );
  return <OpenRoom key={id} session={session.data} />;
}

function OpenRoom({ session }: { session: Session }) {
  const editor = usePlanEditor(session);
  return <Outlet context={{ session, editor } satisfies Room} />;
}

/** The session that a stage is part of, and the editor of its plan. */
export function useRoom(): Room {
  return useOutletContext<Room>();
}
