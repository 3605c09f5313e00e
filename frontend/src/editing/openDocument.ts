import { isRefused, Problem } from "../api/client";
import { draftKey, draftsOf, keepDraft, type Drafts } from "./drafts";
import { begin, type Action, type History, type Path } from "./history";
import { differing, merged, same, takenFromElsewhere, type Clash } from "./merge";

export type SaveState =
  { kind: "saved" } | { kind: "saving" } | { kind: "failed"; problem: Problem };

/** A document as the server has it. */
export interface Kept<T> {
  document: T;
  revision: number;
}

/** Where a document is kept. put answers what was saved, and refuses with 409 what was overtaken. */
export interface Source<T> {
  name: string;
  put: (document: T, revision: number) => Promise<Kept<T>>;
  get: () => Promise<Kept<T>>;
  reduce: (history: History<T>, action: Action<T>) => History<T>;
  /** Fields that only say something of others, such as their age: never asked about, as they are here. */
  unasked?: (path: Path) => boolean;
}

/** What a window shows of an open document. clashes: fields that were changed elsewhere too, to be asked. */
export interface OpenState<T> {
  history: History<T>;
  saving: SaveState;
  revision: number;
  clashes: Clash[];
}

const SOON_MS = 400;
const MOST_SENT = 12;
const CONFLICT = 409;

/**
 * The one truth of an open document in this window, whatever stage or dialog shows it: changed at once, undone at
 * will, saved soon after, one save at a time, the last change always last. What is saved elsewhere meanwhile is
 * merged into it field by field; only a field that was changed in both places is asked about.
 */
export class OpenDocument<T> {
  private state: OpenState<T>;
  private base: Kept<T>;
  private running: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly listeners = new Set<() => void>();
  /** Drafts of other windows that this one has taken in, and that its own does not hold yet. */
  private adopted: string[] = [];
  /** What the document was before what is asked about: a page that is opened new asks again. */
  private before: T | null = null;
  private readonly draft: string;
  /** What was sent and may be saved, though no answer came; the latest last. */
  private sent: T[] = [];

  constructor(
    private readonly source: Source<T>,
    kept: Kept<T>,
    private readonly drafts: Drafts,
    private readonly saved: (name: string, revision: number) => void = () => {},
    window = Math.random().toString(36).slice(2),
  ) {
    this.base = kept;
    this.draft = draftKey(source.name, window);
    let document = kept.document;
    const clashes: Clash[] = [];
    for (const [key, draft] of draftsOf<T>(source.name, drafts)) {
      this.sent.push(...(draft.sent ?? []));
      const was = this.within(draft.base, document, draft.sent ?? []);
      const both = merged(was, draft.document, document);
      if (both.clashes.length > 0) this.before ??= was;
      document = both.document;
      clashes.push(...both.clashes);
      this.adopted.push(key);
    }
    this.state = {
      history: begin(document),
      saving: { kind: "saved" },
      revision: kept.revision,
      clashes: this.asked(clashes),
    };
    if (this.unsaved) this.offer();
    else this.forgetDrafts();
  }

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };

  readonly snapshot = () => this.state;

  private get document(): T {
    return this.state.history.document;
  }

  private get unsaved(): boolean {
    // What may be saved of an earlier state is not what is shown now, though that be as it was in the beginning.
    if (this.sent.length > 0) return true;
    return this.document !== this.base.document && !same(this.document, this.base.document);
  }

  readonly act = (action: Action<T>) => {
    const history = this.source.reduce(this.state.history, action);
    if (history === this.state.history) return;
    this.tell({ history });
    this.offer();
  };

  /** Save now what waits; the revision then saved. Throws the Problem of a save that failed. */
  readonly flush = async (): Promise<number> => {
    clearTimeout(this.timer);
    while (this.running || this.unsaved) {
      if (this.state.clashes.length > 0 && !this.running)
        throw new Problem(CONFLICT, "It was changed elsewhere too. Say first which value counts.");
      this.running ??= this.saveOnce().finally(() => (this.running = null));
      await this.running;
    }
    if (this.state.saving.kind !== "saved") this.settled();
    return this.base.revision;
  };

  /** Ask the server for what was saved elsewhere, and save what could not be. Silent where it cannot be reached. */
  readonly refresh = async () => {
    if (this.running) return;
    try {
      this.arrived(await this.source.get());
      if (this.state.saving.kind === "failed") await this.flush();
    } catch {
      // Out of reach or gone: what is shown stays, and saving says so.
    }
  };

  /** What a page was told of the document; while this window saves, that may be its own save, not yet answered. */
  readonly seen = (kept: Kept<T>) => {
    if (!this.running) this.arrived(kept);
  };

  /** What the server has, perhaps newer than what this window knew of. */
  readonly arrived = (kept: Kept<T>) => {
    if (kept.revision <= this.base.revision) return;
    // What this window sent itself is nobody else's change, though it never heard that it was saved.
    const was = this.within(this.base.document, kept.document, this.sent);
    if (was !== this.base.document) this.sent = [];
    const { document, clashes } = merged(was, this.document, kept.document);
    if (clashes.length > 0) this.before ??= was;
    const moved = (step: T) => merged(was, step, kept.document).document;
    this.base = kept;
    const { past, future } = this.state.history;
    this.tell({
      history: {
        document: same(document, kept.document) ? kept.document : document,
        past: past.map(moved),
        future: future.map(moved),
        touched: null,
      },
      revision: kept.revision,
      clashes: this.asked([
        ...this.state.clashes.filter((old) => !within(old, clashes)),
        ...clashes,
      ]),
    });
    if (this.unsaved) this.offer();
    else this.settled();
  };

  /** Which value of a field that clashed counts. */
  readonly answer = (clash: Clash, whose: "here" | "elsewhere") => {
    const taken = this.state.clashes.filter((c) => c === clash || follows(c, clash));
    let document = this.document;
    if (whose === "elsewhere")
      document = taken.reduce((d, c) => takenFromElsewhere(d, c), document);
    this.tell({
      history: this.source.reduce(this.state.history, { kind: "replace", document }),
      clashes: this.state.clashes.filter((c) => !taken.includes(c)),
    });
    if (this.unsaved) this.offer();
    else this.settled();
  };

  /** The latest state that was sent from here and that the server has, whatever else it has; else the base. */
  private within(base: T, kept: T, sentFrom: T[]): T {
    const unasked = (path: Path) => path[0] === EVIDENCE || (this.source.unasked?.(path) ?? false);
    const found = sentFrom.findLast((sent) => {
      const both = merged(base, sent, kept);
      return this.asked(both.clashes).length === 0 && differing(both.document, kept).every(unasked);
    });
    return found ?? base;
  }

  private asked(clashes: Clash[]): Clash[] {
    const values = clashes.filter((c) => c.path[0] !== EVIDENCE && !this.source.unasked?.(c.path));
    const evidence = clashes.filter((c) => values.some((value) => follows(c, value)));
    return [...values, ...evidence];
  }

  /** A changed document: kept on the device now, saved soon. */
  private offer() {
    this.keep();
    this.tell({ saving: { kind: "saving" } });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush().catch(() => undefined), SOON_MS);
  }

  private keep() {
    const { document, sent } = this;
    if (this.state.clashes.length === 0) this.before = null;
    const base = this.before ?? this.base.document;
    if (!keepDraft(this.draft, { base, document, sent }, this.drafts)) return;
    // What it took in is in it now: left beside it, an older one would be taken for a later change.
    for (const key of this.adopted) this.drafts.removeItem(key);
    this.adopted = [];
  }

  private async saveOnce() {
    const { document } = this;
    this.tell({ saving: { kind: "saving" } });
    const before = this.sent;
    this.sent = [...before.filter((sent) => !same(sent, document)), document].slice(-MOST_SENT);
    this.keep();
    try {
      const kept = await this.source.put(document, this.base.revision);
      this.sent = [];
      this.base = { document, revision: kept.revision };
      this.tell({ revision: kept.revision });
      this.saved(this.source.name, kept.revision);
    } catch (cause) {
      // Refused, this one is surely not saved.
      if (isRefused(cause)) this.sent = before;
      if (cause instanceof Problem && cause.status === CONFLICT) {
        const known = this.base.revision;
        await this.source.get().then(this.arrived, (problem: unknown) => this.failed(problem));
        if (this.base.revision > known) return;
      }
      this.failed(cause);
    }
  }

  private failed(cause: unknown): never {
    const problem = cause instanceof Problem ? cause : new Problem(0, "Couldn’t save your change.");
    this.tell({ saving: { kind: "failed", problem } });
    throw problem;
  }

  private settled() {
    clearTimeout(this.timer);
    this.forgetDrafts();
    this.tell({ saving: { kind: "saved" } });
  }

  private forgetDrafts() {
    for (const key of [this.draft, ...this.adopted]) this.drafts.removeItem(key);
    this.adopted = [];
  }

  private tell(part: Partial<OpenState<T>>) {
    this.state = { ...this.state, ...part };
    for (const listener of this.listeners) listener();
  }
}

const EVIDENCE = "evidence";

/** How a value is known goes with the value: it is answered with it, and never asked about alone. */
const follows = (clash: Clash, value: Clash) =>
  clash.path[0] === EVIDENCE && clash.path[1] === value.path.join(".");

const within = (clash: Clash, others: Clash[]) =>
  others.some((other) => other.path.join(".") === clash.path.join("."));
