import { OpenDocument, type Kept, type Source } from "./openDocument";

/** The documents that are open in this window. They outlive the pages that show them. */
const opened = new Map<string, OpenDocument<unknown>>();
const listeners = new Set<(name: string) => void>();

/** What the document of a session is called here. */
export const sessionDocument = (id: number) => `session.${id}`;

interface Word {
  name: string;
  revision: number;
}

/** Other windows of this browser are told of every save. */
const windows =
  typeof BroadcastChannel === "undefined" ? null : new BroadcastChannel("lark.documents");

function heard(name: string) {
  for (const listener of listeners) listener(name);
}

windows?.addEventListener("message", (event: MessageEvent<Word>) => {
  const { name } = event.data;
  const here = opened.get(name);
  if (here && here.snapshot().revision >= event.data.revision) return;
  void (here?.refresh() ?? Promise.resolve()).then(() => heard(name));
});

/** The open document of a source; opened with what the server has, unless it is open already. */
export function openDocument<T>(source: Source<T>, kept: Kept<T>): OpenDocument<T> {
  const known = opened.get(source.name) as OpenDocument<T> | undefined;
  if (known) return known;
  const made = new OpenDocument<T>(source, kept, localStorage, (name, revision) => {
    windows?.postMessage({ name, revision } satisfies Word);
    heard(name);
  });
  opened.set(source.name, made as OpenDocument<unknown>);
  return made;
}

/** A document that is open in this window, or undefined. */
export function alreadyOpen<T>(name: string): OpenDocument<T> | undefined {
  return opened.get(name) as OpenDocument<T> | undefined;
}

/** Everything that waits is saved, or has failed and says so where it is shown. What is asked next then sees it. */
export async function allSaved(): Promise<void> {
  await Promise.allSettled([...opened.values()].map((document) => document.flush()));
}

/** Whether a change here could not be saved yet. */
export function anyUnsaved(): boolean {
  return [...opened.values()].some((document) => document.snapshot().saving.kind === "failed");
}

/** The server changed a document itself, as a landing does with its session's battery. */
export function changedByServer(name: string) {
  void (opened.get(name)?.refresh() ?? Promise.resolve()).then(() => heard(name));
}

/** Called with the name of each document that this or another window has saved. */
export function onSaved(listener: (name: string) => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** The last change still goes out when the window closes. */
if (typeof window !== "undefined") window.addEventListener("pagehide", () => void allSaved());
