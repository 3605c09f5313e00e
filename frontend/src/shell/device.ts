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

/** Whether it could be kept. */
export function keep(key: string, value: unknown): boolean {
  try {
    localStorage.setItem(key, JSON.stringify(value));
    return true;
  } catch {
    return false;
  }
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
