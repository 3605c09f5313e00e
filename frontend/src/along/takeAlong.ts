import type { Session, Survey } from "../api/client";
import type { Units } from "../units/units";
import { pathOf, keyOf } from "./key";
import {
  questions,
  sessionQuestion,
  surveyQuestion,
  tablesQuestions,
  type Question,
} from "./questions";
import { answersOf, putTaken, type KeptAnswer, type Taken } from "./store";

/** How far it is: questions answered of all. */
export type Told = (done: number, of: number) => void;

class GoneError extends Error {}

async function ask(question: Question): Promise<{ text: string; body: string | null }> {
  const body = question.body === undefined ? null : JSON.stringify(question.body);
  const answer = await fetch(question.address, {
    method: question.method,
    body,
    headers: body === null ? {} : { "Content-Type": "application/json" },
    cache: "no-store",
  }).catch(() => {
    throw new GoneError();
  });
  if (!answer.ok) throw new Error(String(answer.status));
  return { text: await answer.text(), body };
}

/** Pictures go into the store of the service worker, which gives them to the map. */
async function seen(place: string | undefined): Promise<void> {
  if (place === undefined) return;
  const { place: drawn } = JSON.parse(place) as {
    place: { terrain?: { sha256: string } | null; picture?: { sha256: string } | null };
  };
  const addresses = [
    drawn.terrain && `/api/terrains/${drawn.terrain.sha256}/hillshade.png`,
    drawn.picture && `/api/pictures/${drawn.picture.sha256}.jpg`,
  ].filter((address): address is string => Boolean(address));
  for (const address of addresses) if (!(await fetch(address)).ok) throw new Error("no picture");
}

const running = new Map<number, { taking: Promise<Taken | null>; tables: boolean }>();

const HERE = /^(localhost|127\.0\.0\.1|\[::1\])$/;

/**
 * Whether field tables are made without being asked for: they cost the server seconds of work, and where it is this
 * very computer they are hardly ever looked up.
 */
export const tablesByThemselves = () => !HERE.test(window.location.hostname);

/**
 * Put all that a session needs on this device, in place of what was here of it. What cannot be had is named; null
 * where the server is out of reach, and what was here stays. Never twice at once. tables: whether field tables are
 * made; else those that are here stay.
 */
export function takeAlong(
  id: number,
  units: Units,
  tables: boolean,
  told: Told = () => undefined,
): Promise<Taken | null> {
  const under = running.get(id);
  // What is under way without tables does not answer for them.
  if (under && tables && !under.tables)
    return under.taking.then(() => takeAlong(id, units, tables, told));
  if (under) return under.taking;
  const taking = take(id, units, tables, told).finally(() => running.delete(id));
  running.set(id, { taking, tables });
  return taking;
}

async function take(id: number, units: Units, tables: boolean, told: Told): Promise<Taken | null> {
  const answers: KeptAnswer[] = [];
  const missing: string[] = [];
  const at = new Date().toISOString();
  const got = async (question: Question): Promise<string | undefined> => {
    try {
      const { text, body } = await ask(question);
      const key = keyOf(question.method, question.address);
      answers.push({ session: id, key, body, text, at });
      return text;
    } catch (cause) {
      if (cause instanceof GoneError) throw cause;
      missing.push(question.words);
      return undefined;
    }
  };
  try {
    const first = await got(sessionQuestion(id, units));
    if (first === undefined) return null;
    const session = JSON.parse(first) as Session;
    const survey = await got(surveyQuestion(session.plan));
    const lookedUp = tablesQuestions(id);
    const rest = questions(
      id,
      session.plan,
      units,
      survey === undefined ? undefined : (JSON.parse(survey) as Survey),
    );
    const keys = new Set(lookedUp.map(({ method, address }) => keyOf(method, address)));
    if (tables) rest.push(...lookedUp);
    else answers.push(...(await answersOf(id)).filter(({ key }) => keys.has(key)));
    let place: string | undefined;
    for (const [n, question] of rest.entries()) {
      told(n + 2, rest.length + 3);
      const text = await got(question);
      if (/^\/api\/places\//.test(pathOf(question.address))) place = text;
    }
    await seen(place).catch(() => missing.push("the map’s pictures"));
    const taken: Taken = {
      session: id,
      title: session.plan.title,
      takeoff_at: session.plan.takeoff_at,
      revision: session.revision,
      at,
      bytes: answers.reduce((sum, { text, body }) => sum + text.length + (body?.length ?? 0), 0),
      missing: [...new Set(missing)],
      tables: answers.some(({ key }) => keys.has(key)),
    };
    await putTaken(taken, answers);
    // Asked once it is worth it: a browser that keeps it throws nothing away when its room gets short.
    void navigator.storage?.persist?.();
    return taken;
  } catch (cause) {
    if (cause instanceof GoneError) return null;
    throw cause;
  }
}
