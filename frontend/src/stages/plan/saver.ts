import { Problem, type Plan } from "../../api/client";

export type SaveState =
  { kind: "saved" } | { kind: "saving" } | { kind: "failed"; problem: Problem };

type Put = (plan: Plan, revision: number) => Promise<{ revision: number }>;

export interface Drafts {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
}

export interface Draft {
  /** Which window wrote it: another one's save must not take it for its own. */
  owner: string;
  revision: number;
  plan: Plan;
}

const key = (sessionId: number) => `lark.draft.${sessionId}`;

/** What was changed and not yet saved when the window closed, or null. */
export function draftOf(sessionId: number, drafts: Drafts): Draft | null {
  try {
    const text = drafts.getItem(key(sessionId));
    return text === null ? null : (JSON.parse(text) as Draft);
  } catch {
    return null; // a damaged draft is no draft
  }
}

export function forgetDraft(sessionId: number, drafts: Drafts) {
  drafts.removeItem(key(sessionId));
}

/**
 * Saves a plan soon after it changes, one save at a time, the last change always last.
 * What is not saved yet is kept as a draft, so that a crash loses nothing.
 */
export class PlanSaver {
  private waiting: Plan | null = null;
  private running: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly owner = Math.random().toString(36).slice(2);

  constructor(
    private readonly sessionId: number,
    private revision: number,
    private readonly put: Put,
    private readonly drafts: Drafts,
    private readonly tell: (state: SaveState) => void,
    private readonly delay = 400,
  ) {}

  /** A changed plan, to be saved. */
  offer(plan: Plan) {
    this.waiting = plan;
    try {
      const draft: Draft = { owner: this.owner, revision: this.revision, plan };
      this.drafts.setItem(key(this.sessionId), JSON.stringify(draft));
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
    const plan = this.waiting!;
    this.waiting = null;
    this.tell({ kind: "saving" });
    try {
      const saved = await this.put(plan, this.revision);
      this.revision = saved.revision;
    } catch (cause) {
      this.waiting ??= plan;
      const problem =
        cause instanceof Problem
          ? cause
          : new Problem(0, "Saving failed. Your change is kept here.");
      this.tell({ kind: "failed", problem });
      throw problem;
    }
    if (this.waiting === null) {
      if (draftOf(this.sessionId, this.drafts)?.owner === this.owner) {
        forgetDraft(this.sessionId, this.drafts);
      }
      this.tell({ kind: "saved" });
    }
  }
}
