import type { DrillsHere, OnSite, Plan, Result, Session, SessionSummary } from "../api/client";
import { reached, stoodIn } from "./away";
import { answered, isFollowed, taken } from "./following";
import { byTables, lookedUpFor, saidByTables, STATUSES, type TablesTaken } from "./byTables";
import type { LookedUp } from "./fieldTables";
import { keyOf, pathOf } from "./key";
import { tablesQuestions } from "./questions";
import { sent } from "./sent";
import { drillsOf, valuesOf, weatherTooOld } from "./standingIn";
import { allTaken, answersOf, keptAnswers, type KeptAnswer } from "./store";

/** Bad reception is no reception: so long a question that is along waits for the server. */
const PATIENCE_MS = 6_000;

/** A device that is slow to write keeps nobody waiting longer. */
const FOLLOW_MS = 1_000;

/** What a proxy answers while Lark is down. */
const DOWN: ReadonlySet<number> = new Set([502, 504]);

/** Questions that change nothing though they are sent as one. */
const ASKING =
  /^\/api\/(check|outing|survey|section|windows|weather\/compare|sessions\/\d+\/(on-site|drills))$/;

/** Answers that still help when the plan was changed since: with what is not known of it taken out. */
const HELPS = /^\/api\/(outing|sessions\/\d+\/(on-site|drills))$/;

/** What the field tables may say of a plan that was changed since. */
const LOOKED_UP = "/api/check";

const asks = (request: Request) =>
  request.method === "GET" || (request.method === "POST" && ASKING.test(pathOf(request.url)));

/** Asks the server; where it cannot be reached, what was taken along stands in. */
export async function fetchOrTakenAlong(request: Request): Promise<Response> {
  const path = pathOf(request.url);
  if (!asks(request)) {
    const answer = settled(await sent(request, false));
    // Whoever waits for this lets go of what was said once it is answered: what is along has it by then, also when the
    // page is left the moment after.
    if (answer.ok && isFollowed(request.method, path)) {
      tookAt = performance.now();
      await within(
        follow(answer, (text) => taken(path, text)),
        FOLLOW_MS,
      );
    }
    return answer;
  }
  const body = request.method === "POST" ? await request.clone().text() : null;
  const kept = await keptAnswers(request.method, request.url);
  if (kept.length === 0) return settled(await sent(request, true));
  const askedAt = performance.now();
  const patience = new AbortController();
  const timer = setTimeout(() => patience.abort(), PATIENCE_MS);
  request.signal.addEventListener("abort", () => patience.abort());
  try {
    const answer = await sent(request, true, patience.signal);
    if (answer.ok && (request.method === "GET" || HELPS.test(path)))
      void follow(answer, async (text) => {
        // Asked before the server took something, it may know nothing of that: what is along is newer.
        if (askedAt > tookAt) await answered(standIn(kept, path, body)?.kept, body, text);
      });
    if (!DOWN.has(answer.status)) return settled(answer);
  } catch (cause) {
    if (request.signal.aborted) throw cause;
  } finally {
    clearTimeout(timer);
  }
  const found = await answerOf(kept, path, body);
  if (found === null) throw new TypeError("out of reach, and not along for the plan as it is now");
  return new Response(found, { headers: { "Content-Type": "application/json" } });
}

function settled(answer: Response): Response {
  if (!DOWN.has(answer.status)) reached();
  return answer;
}

/** When the server last answered that it took something, by this page's clock. */
let tookAt = -Infinity;

let following: Promise<void> = Promise.resolve();

/** In the order of the answers. A device that cannot keep what was said shows it all the same. */
function follow(answer: Response, by: (text: string) => Promise<void>): Promise<void> {
  const text = answer.clone().text();
  // A page that is left lets go of its answers, of this one perhaps while others still stand before it.
  text.catch(() => undefined);
  following = following.then(() => text.then(by)).catch(() => undefined);
  return following;
}

/** Wait for something, but no longer than so. */
const within = (work: Promise<void>, ms: number) =>
  Promise.race([work, new Promise<void>((done) => setTimeout(done, ms))]);

/** The session whose pages are open. */
const openSession = () => Number(/^\/sessions\/(\d+)/.exec(window.location.pathname)?.[1]);

/** The answer to the very same question, else one of the open session that helps. */
function standIn(all: KeptAnswer[], path: string, sent: string | null) {
  const same = all.find((answer) => answer.body === sent);
  if (same) return { kept: same, exact: true };
  const helps = HELPS.test(path) || path === LOOKED_UP;
  const near = helps && all.find((answer) => answer.session === openSession());
  return near ? { kept: near, exact: false } : null;
}

/** A session in the list, with its verdict as its own page has it now. */
async function asOfNow(line: SessionSummary): Promise<SessionSummary> {
  const all = await answersOf(line.id);
  const own = all.find(({ key }) => key.startsWith(`GET /api/sessions/${line.id}?`));
  if (!own) return { ...line, verdict: "unknown" };
  const { plan, result } = JSON.parse(own.text) as Session;
  const { verdict, checks } = weatherTooOld(result, plan, own.at, new Date());
  const [tightest] = checks;
  return {
    ...line,
    verdict,
    tightest: tightest ? { ...line.tightest, ...tightest } : line.tightest,
  };
}

/** What the field tables of a session say of a plan, and since when they are along; null where they do not cover it. */
async function tablesSay(
  session: number,
  plan: Plan,
): Promise<{ said: LookedUp; of: Plan; at: string } | null> {
  const keys = new Set(
    tablesQuestions(session).map(({ method, address }) => keyOf(method, address)),
  );
  const kept = (await answersOf(session)).filter(({ key }) => keys.has(key));
  const tables = kept.map(({ text }) => JSON.parse(text) as TablesTaken);
  const said = lookedUpFor(tables, plan);
  return said && { said, of: tables[0]!.plan, at: kept[0]!.at };
}

/** The result that is along, with what the tables say of a plan as it is now. */
async function lookedUpIn(kept: KeptAnswer, plan: Plan): Promise<Result | null> {
  const found = await tablesSay(kept.session, plan);
  // Made for another plan than the result that they would complete, they say nothing of it.
  if (!found || kept.body !== JSON.stringify(found.of)) return null;
  return byTables(JSON.parse(kept.text) as Result, found.said, found.at);
}

/** What is said in place of the server; null where nothing that was taken along can. */
async function answerOf(
  all: KeptAnswer[],
  path: string,
  sent: string | null,
): Promise<string | null> {
  const found = standIn(all, path, sent);
  if (!found) return null;
  const { kept, exact } = found;
  if (path === LOOKED_UP) {
    const plan = JSON.parse(sent!) as Plan;
    const result = exact ? (JSON.parse(kept.text) as Result) : await lookedUpIn(kept, plan);
    stoodIn(kept.at, exact ? "as it is" : result ? "by tables" : "as it was");
    if (result === null) return null;
    return JSON.stringify(weatherTooOld(result, plan, kept.at, new Date()));
  }
  if (!path.endsWith("/on-site")) stoodIn(kept.at, exact ? "as it is" : "as it was");
  if (/^\/api\/sessions\/\d+$/.test(path)) {
    const session = JSON.parse(kept.text) as Session;
    const result = weatherTooOld(session.result, session.plan, kept.at, new Date());
    return JSON.stringify({ ...session, result });
  }
  if (path.endsWith("/on-site")) {
    const { plan } = JSON.parse(sent!) as { plan: Plan };
    const { plan: before } = JSON.parse(kept.body!) as { plan: Plan };
    const found = exact ? null : await tablesSay(kept.session, plan);
    stoodIn(kept.at, exact ? "as it is" : found ? "by tables" : "as it was");
    const said = (check: string) =>
      found === null
        ? null
        : {
            status: STATUSES[found.said.statuses[check] ?? 0]!,
            sentence: saidByTables(found.said.statuses[check] ?? 0, found.at),
          };
    return JSON.stringify(valuesOf(JSON.parse(kept.text) as OnSite, before, plan, said));
  }
  if (path.endsWith("/drills") && sent !== null) {
    const { plan } = JSON.parse(sent) as { plan: Plan };
    const { plan: before } = JSON.parse(kept.body!) as { plan: Plan };
    return JSON.stringify(drillsOf(JSON.parse(kept.text) as DrillsHere, before, plan, new Date()));
  }
  if (path === "/api/sessions") {
    const along = new Set((await allTaken()).map((taken) => taken.session));
    const list = JSON.parse(kept.text) as { sessions: SessionSummary[] };
    const sessions = await Promise.all(
      list.sessions.filter((session) => along.has(session.id)).map(asOfNow),
    );
    return JSON.stringify({ ...list, sessions, total: sessions.length, pages: 1 });
  }
  return kept.text;
}
