import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import { keyOf } from "./key";

/** What was taken along of a session: since when it is here, and what it takes. */
export interface Taken {
  session: number;
  title: string;
  takeoff_at: string;
  /** Of the session when it was taken along. */
  revision: number;
  /** By this device's clock. */
  at: string;
  bytes: number;
  /** What could not be had, in words; empty: it is complete. */
  missing: string[];
  /** Whether field tables are among it; what an older Lark took along says nothing of them. */
  tables?: boolean;
}

/** An answer of the server, as it was given. */
export interface KeptAnswer {
  session: number;
  key: string;
  /** What was sent with the question; null without. */
  body: string | null;
  text: string;
  at: string;
}

interface Along extends DBSchema {
  taken: { key: number; value: Taken };
  answers: { key: [number, string]; value: KeptAnswer; indexes: { key: string } };
}

let opening: Promise<IDBPDatabase<Along>> | null = null;

function database(): Promise<IDBPDatabase<Along>> {
  opening ??= openDB<Along>("lark.along", 1, {
    upgrade(db) {
      db.createObjectStore("taken", { keyPath: "session" });
      db.createObjectStore("answers", { keyPath: ["session", "key"] }).createIndex("key", "key");
    },
    // Another window has a newer Lark: this one lets go, and opens it again when it needs to.
    blocking() {
      void opening?.then((db) => db.close());
      opening = null;
    },
  });
  opening.catch(() => (opening = null));
  return opening;
}

const listeners = new Set<() => void>();
const windows = typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("lark.along");

function tell() {
  for (const listener of listeners) listener();
}

windows?.addEventListener("message", tell);

/** Be told when something was taken along or let go of, in this window or in another. */
export function watchTaken(listener: () => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

function changed() {
  tell();
  windows?.postMessage(null);
}

/** Put a session in place of what was here of it, whole or not at all. */
export async function putTaken(taken: Taken, answers: KeptAnswer[]): Promise<void> {
  const change = (await database()).transaction(["taken", "answers"], "readwrite");
  const kept = change.objectStore("answers");
  await kept.delete(IDBKeyRange.bound([taken.session], [taken.session, []]));
  await Promise.all([
    ...answers.map((answer) => kept.put(answer)),
    change.objectStore("taken").put(taken),
    change.done,
  ]);
  changed();
}

export async function dropTaken(session: number): Promise<void> {
  const change = (await database()).transaction(["taken", "answers"], "readwrite");
  await change.objectStore("answers").delete(IDBKeyRange.bound([session], [session, []]));
  await Promise.all([change.objectStore("taken").delete(session), change.done]);
  changed();
}

/** Sessions that are along; none where this browser keeps nothing. */
export async function allTaken(): Promise<Taken[]> {
  try {
    return await (await database()).getAll("taken");
  } catch {
    return [];
  }
}

/** All answers that are along of a session. */
export async function answersOf(session: number): Promise<KeptAnswer[]> {
  return (await database()).getAll("answers", IDBKeyRange.bound([session], [session, []]));
}

/** Put newer answers in place of those that are along; a session that was let go of meanwhile stays gone. */
export async function putAnswers(answers: KeptAnswer[]): Promise<void> {
  const change = (await database()).transaction("answers", "readwrite");
  for (const answer of answers)
    if (await change.store.getKey([answer.session, answer.key])) await change.store.put(answer);
  await change.done;
}

/** The answers to a question that are along, of every session that has one; the newest first. */
export async function keptAnswers(method: string, address: string): Promise<KeptAnswer[]> {
  try {
    const all = await (await database()).getAllFromIndex("answers", "key", keyOf(method, address));
    return all.sort((a, b) => b.at.localeCompare(a.at));
  } catch {
    return [];
  }
}
