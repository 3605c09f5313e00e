import { Problem } from "../api/client";

export type SaveState =
  { kind: "saved" } | { kind: "saving" } | { kind: "failed"; problem: Problem };

export type Put<T> = (document: T, revision: number) => Promise<{ revision: number }>;

export interface Drafts {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
}

export interface Draft<T> {
  /** Which window wrote it: another one's save must not take it for its own. */
  owner: string;
  revision: number;
  document: T;
}

const key = (name: string) => `lark.draft.${name}`;

/** What was changed and not yet saved when the window closed, or null. */
export function draftOf<T>(name: string, drafts: Drafts): Draft<T> | null {
  try {
    const text = drafts.getItem(key(name));
    return text === null ? null : (JSON.parse(text) as Draft<T>);
  } catch {
    return null; // a damaged draft is no draft
  }
}

export function forgetDraft(name: string, drafts: Drafts) {
  drafts.removeItem(key(name));
}

/**
 * Saves a document soon after it changes, one save at a time, the last change always last.
 * What is not saved yet is kept as a draft, so that a crash loses nothing.
 */
export class Saver<T> {
  private waiting: T | null = null;
  private running: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly owner = Math.random().toString(36).slice(2);

  constructor(
    private readonly name: string,
    private revision: number,
    private readonly put: Put<T>,
    private readonly drafts: Drafts,
    private readonly tell: (state: SaveState) => void,
    private readonly delay = 400,
  ) {}

  /** A changed document, to be saved. */
  offer(document: T) {
    this.waiting = document;
    try {
      const draft: Draft<T> = { owner: this.owner, revision: this.revision, document };
      this.drafts.setItem(key(this.name), JSON.stringify(draft));
    } catch {
      // Storage full or forbidden: the save itself still goes ahead.
    }
    this.tell({ kind: "saving" });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush().catch(() => undefined), this.delay);
  }

  /** Save now what waits; the revision then saved. Throws the Problem of a save that failed. */
  async flush(): Promise<number> {
    clearTimeout(this.timer);
    while (this.running || this.waiting) {
      if (!this.running) this.running = this.saveOnce().finally(() => (this.running = null));
      await this.running;
    }
    return this.revision;
  }

  private async saveOnce() {
    const document = this.waiting!;
    this.waiting = null;
    this.tell({ kind: "saving" });
    try {
      const saved = await this.put(document, this.revision);
      this.revision = saved.revision;
    } catch (cause) {
      this.waiting ??= document;
      const problem =
        cause instanceof Problem
          ? cause
          : new Problem(0, "Saving failed. Your change is kept here.");
      this.tell({ kind: "failed", problem });
      throw problem;
    }
    if (this.waiting === null) {
      if (draftOf(this.name, this.drafts)?.owner === this.owner) {
        forgetDraft(this.name, this.drafts);
      }
      this.tell({ kind: "saved" });
    }
  }
}
