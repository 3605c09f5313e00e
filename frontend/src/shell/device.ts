/**
 * What this device keeps for Lark. A store that is damaged, full or forbidden must not keep a screen from
 * opening: then it is as if nothing was there, and what is kept lasts as long as the window.
 */

export function kept<T>(key: string): T | null {
  try {
    const text = localStorage.getItem(key);
    return text === null ? null : (JSON.parse(text) as T);
  } catch {
    return null;
  }
}

/** Whether the last thing that should have been kept was not: then nobody may say that it is. */
let forgets = false;
const listeners = new Set<() => void>();

export const isForgetful = () => forgets;

export function watchForgetful(listener: () => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** Where the pilot's last change is, besides on the screen. */
export const whereKept = () =>
  forgets
    ? "This browser has no room to keep it: leave this page open until it is saved."
    : "It is kept on this device.";

/** Whether it could be kept. */
export function keep(key: string, value: unknown, store: Pick<Storage, "setItem"> = localStorage) {
  let done = true;
  try {
    store.setItem(key, JSON.stringify(value));
  } catch {
    done = false;
  }
  if (forgets === done) {
    forgets = !done;
    for (const listener of listeners) listener();
  }
  return done;
}

export function drop(key: string) {
  try {
    localStorage.removeItem(key);
  } catch {
    // nothing was kept, then
  }
}

/** All that is kept under names that begin so. */
export function keptFrom<T>(start: string): T[] {
  try {
    return Array.from({ length: localStorage.length }, (_, n) => localStorage.key(n)!)
      .filter((key) => key.startsWith(start))
      .map((key) => kept<T>(key))
      .filter((value) => value !== null);
  } catch {
    return [];
  }
}

/** A number that nobody else has; also where the page is not served over a secure connection. */
export function number(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}
