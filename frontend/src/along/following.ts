import type { Afterwards, Answer, DrillsHere, OnSite, Session } from "../api/client";
import { drillsWith, onSiteWith, times } from "../outbox/onSite";
import { answersOf, putAnswers, type KeptAnswer } from "./store";

/**
 * What is along follows what the server says and takes: else an older answer would stand in for it later, and what the
 * pilot has just done would be gone from the screen.
 */

const now = () => new Date().toISOString();

/** The server answered a question that is along, so it is this that stands in from now on. */
export async function answered(kept: KeptAnswer | undefined, sent: string | null, text: string) {
  if (kept) await putAnswers([{ ...kept, body: sent, text, at: now() }]);
}

const SAVED = /^\/api\/sessions\/(\d+)$/;
const SAID = /^\/api\/sessions\/(\d+)\/answers\/(\w+)$/;

export const isFollowed = (method: string, path: string) =>
  method === "PUT" && (SAVED.test(path) || SAID.test(path));

/** The server took a change of a session, and said what it has now. */
export async function taken(path: string, text: string) {
  const saved = SAVED.exec(path);
  const said = SAID.exec(path);
  const session = Number((saved ?? said)![1]);
  const change = said ? withAnswers(session, said[2]!, text) : withSession(session, text);
  const all = await answersOf(session);
  await putAnswers(
    all.flatMap((kept) => {
      const next = change(kept);
      return next === null ? [] : [{ ...kept, text: next }];
    }),
  );
}

type Change = (kept: KeptAnswer) => string | null;

function withSession(id: number, text: string): Change {
  const { plan, revision, changed_at, result } = JSON.parse(text) as Session;
  return ({ key, text: before }) =>
    key.startsWith(`GET /api/sessions/${id}?`)
      ? JSON.stringify({ ...(JSON.parse(before) as Session), plan, revision, changed_at, result })
      : null;
}

function withAnswers(id: number, list: string, text: string): Change {
  const { answers } = JSON.parse(text) as { answers: Record<string, Answer> };
  const of = `/api/sessions/${id}`;
  return ({ key, text: before }) => {
    if (key === `GET ${of}/answers/${list}`) return text;
    if (key === `GET ${of}/after` && list === "after")
      return JSON.stringify({ ...(JSON.parse(before) as Afterwards), said: times(answers) });
    if (key.startsWith(`POST ${of}/drills`) && list === "drills")
      return JSON.stringify(
        drillsWith(JSON.parse(before) as DrillsHere, (drill) => answers[drill] ?? null),
      );
    if (key.startsWith(`POST ${of}/on-site`) && (list === "look_round" || list === "walkround"))
      return JSON.stringify(
        onSiteWith(JSON.parse(before) as OnSite, list, (item) => answers[item] ?? null),
      );
    return null;
  };
}
