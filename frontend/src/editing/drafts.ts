import { keep } from "../shell/device";

/** What is changed and not saved yet, kept on the device so that a crash loses nothing. */

export interface Drafts {
  readonly length: number;
  key(index: number): string | null;
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
}

/** A changed document with what it was changed from, so that it can be merged with what was saved since. */
export interface Draft<T> {
  base: T;
  document: T;
  /** What was sent and may be saved, though no answer came: what an older Lark kept says nothing of it. */
  sent?: T[];
}

const prefix = (name: string) => `lark.draft.${name}.`;

/** Every window's draft of a document, by the key that it is kept under. */
export function draftsOf<T>(name: string, drafts: Drafts): Map<string, Draft<T>> {
  const found = new Map<string, Draft<T>>();
  for (let i = 0; i < drafts.length; i++) {
    const key = drafts.key(i);
    if (!key?.startsWith(prefix(name))) continue;
    try {
      const draft = JSON.parse(drafts.getItem(key) ?? "null") as Draft<T> | null;
      if (draft?.base && draft.document) found.set(key, draft);
    } catch {
      // a damaged draft is no draft
    }
  }
  return found;
}

/** Where this window keeps its draft of a document. */
export const draftKey = (name: string, window: string) => prefix(name) + window;

/** Whether it is kept. Storage full or forbidden, the save itself still goes ahead, and the device says that it forgets. */
export const keepDraft = <T>(key: string, draft: Draft<T>, drafts: Drafts) =>
  keep(key, draft, drafts);
