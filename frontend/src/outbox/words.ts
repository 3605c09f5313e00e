import type { Answer, Said } from "../api/client";
import { drop, keep, kept, keptFrom, number } from "../shell/device";

export type ListName = "kit" | "look_round" | "walkround" | "drills" | "after";

/** What was said to an item of a session's list, and is not known to be with the server. */
export interface Word {
  uid: string;
  session: number;
  list: ListName;
  said: Said;
  /** When, by this device's clock. */
  at: string;
}

const WORDS = "lark.said.";
/** The item that a word is about: where it is kept on the device. */
export const keyOf = ({ session, list, said }: Word) => `${WORDS}${session}.${list}.${said.item}`;

/** As this page knows them; read from the device once, and again when another window changes them. */
let known: readonly Word[] | null = null;
const listeners = new Set<() => void>();

function tell(next: readonly Word[] | null) {
  known = next;
  for (const listener of listeners) listener();
}

const stored = () => keptFrom<Word>(WORDS).sort((a, b) => a.at.localeCompare(b.at));

/** Forget what this page knows, and read from the device what waits. */
export function readAnew() {
  tell(null);
}

/** Words that wait for the server, first said first. The same array until one comes or goes. */
export function wordsWaiting(): readonly Word[] {
  return (known ??= stored());
}

/** Keep what is said now, in place of an earlier word to the same item. */
export function keepWord(session: number, list: ListName, said: Said) {
  const word: Word = { uid: number(), session, list, said, at: new Date().toISOString() };
  const others = wordsWaiting().filter((w) => keyOf(w) !== keyOf(word));
  keep(keyOf(word), word);
  tell([...others, word]);
}

/** Let go of a word that the server has; one that was said to the item since stays. */
export function letGo(word: Word) {
  if (kept<Word>(keyOf(word))?.uid === word.uid) drop(keyOf(word));
  tell(wordsWaiting().filter((w) => w.uid !== word.uid));
}

/** Be told when words come or go, in this window or in another. */
export function watchWords(listener: () => void): () => void {
  const elsewhere = (e: StorageEvent) => {
    if (e.key === null || e.key.startsWith(WORDS)) readAnew();
  };
  listeners.add(listener);
  window.addEventListener("storage", elsewhere);
  return () => {
    listeners.delete(listener);
    window.removeEventListener("storage", elsewhere);
  };
}

/** The answer that a word gives its item: null where it takes one back. */
function given({ said: { word, value, note }, at }: Word): Answer | null {
  return word === null ? null : { word, value: value ?? null, note: note ?? "", said_at: at };
}

/** Answers to a list, with the words that still wait in their place. */
export function withWords(
  answers: Record<string, Answer>,
  words: readonly Word[],
): Record<string, Answer> {
  const found = new Map(Object.entries(answers));
  for (const word of words) {
    const answer = given(word);
    if (answer) found.set(word.said.item, answer);
    else found.delete(word.said.item);
  }
  return Object.fromEntries(found);
}
