import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem } from "../src/api/client";
import { draftsOf } from "../src/editing/drafts";
import { reducer, setAt } from "../src/editing/history";
import { OpenDocument, type Kept } from "../src/editing/openDocument";
import { Store } from "./store";

interface Doc {
  title: string;
  wind: number;
  evidence?: Record<string, { how: string }>;
}

/** A server that keeps one document and refuses what was overtaken. */
class Server {
  kept: Kept<Doc> = { document: { title: "Lake", wind: 5 }, revision: 1 };
  puts: Doc[] = [];
  away = false;
  /** It does what it is asked, and its answer never arrives. */
  deaf = false;
  held: Promise<void> = Promise.resolve();
  put = async (document: Doc, revision: number) => {
    this.puts.push(document);
    await this.held;
    if (this.away) throw new Problem(0, "out of reach");
    if (revision !== this.kept.revision) throw new Problem(409, "overtaken");
    this.kept = { document, revision: revision + 1 };
    if (this.deaf) throw new Problem(0, "no answer");
    return this.kept;
  };
  get = () =>
    this.away ? Promise.reject(new Problem(0, "out of reach")) : Promise.resolve(this.kept);
  /** What another device saves. */
  elsewhere(part: Partial<Doc>) {
    const { document, revision } = this.kept;
    this.kept = { document: { ...document, ...part }, revision: revision + 1 };
  }
}

const reduce = reducer<Doc>((document, path, value) => setAt(document, path, value));

describe("an open document", () => {
  let shelf: Store;
  let server: Server;
  let here: OpenDocument<Doc>;
  const saved = vi.fn();
  const open = (kept = server.kept) =>
    new OpenDocument<Doc>(
      { name: "7", put: server.put, get: server.get, reduce },
      kept,
      shelf,
      saved,
    );
  const set = (path: keyof Doc, value: unknown, at = here) =>
    at.act({ kind: "change", path: [path], value, at: Date.now(), drag: null });
  const shown = (at = here) => at.snapshot().history.document;

  beforeEach(() => {
    vi.useFakeTimers();
    saved.mockClear();
    shelf = new Store();
    server = new Server();
    here = open();
  });
  afterEach(() => vi.useRealTimers());
  const soon = () => vi.advanceTimersByTimeAsync(500);

  it("sends only the last of a burst, and says that it is saved", async () => {
    for (const title of ["a", "b", "c"]) set("title", title);
    expect(here.snapshot().saving.kind).toBe("saving");
    await soon();
    expect(server.puts.map((p) => p.title)).toEqual(["c"]);
    expect(here.snapshot()).toMatchObject({ saving: { kind: "saved" }, revision: 2 });
    expect(saved).toHaveBeenCalledWith("7", 2);
    expect(shelf.length).toBe(0);
  });

  it("saves one at a time, each from the revision before", async () => {
    let release = () => {};
    server.held = new Promise<void>((done) => (release = done));
    set("title", "a");
    await soon();
    set("title", "b");
    await soon();
    expect(server.puts).toHaveLength(1);
    release();
    await soon();
    expect(server.puts.map((p) => p.title)).toEqual(["a", "b"]);
    expect(server.kept).toEqual({ document: { title: "b", wind: 5 }, revision: 3 });
  });

  it("keeps a draft while the server is away, which the next window takes in", async () => {
    server.away = true;
    set("wind", 9);
    await soon();
    expect(here.snapshot().saving.kind).toBe("failed");
    expect(draftsOf<Doc>("7", shelf).size).toBe(1);
    server.away = false;
    server.elsewhere({ title: "Lake at dusk" });
    const next = open();
    expect(shown(next)).toEqual({ title: "Lake at dusk", wind: 9 });
    await soon();
    expect(server.kept.document).toEqual({ title: "Lake at dusk", wind: 9 });
    expect(shelf.length).toBe(0);
  });

  it("says why a save failed to who asked for it", async () => {
    server.away = true;
    set("wind", 9);
    await expect(here.flush()).rejects.toThrow("out of reach");
    server.away = false;
    expect(await here.flush()).toBe(2);
  });

  it("puts changes of different fields together without asking", async () => {
    server.elsewhere({ title: "Lake at dusk" });
    set("wind", 9);
    await soon();
    expect(server.kept).toEqual({ document: { title: "Lake at dusk", wind: 9 }, revision: 3 });
    expect(shown()).toEqual({ title: "Lake at dusk", wind: 9 });
    expect(here.snapshot()).toMatchObject({ clashes: [], saving: { kind: "saved" } });
  });

  it("asks about a field that both changed, and saves nothing until it is answered", async () => {
    server.elsewhere({ wind: 3 });
    set("wind", 9);
    await soon();
    const [clash] = here.snapshot().clashes;
    expect(clash).toMatchObject({ path: ["wind"], here: 9, elsewhere: 3 });
    expect(server.kept.document.wind).toBe(3);
    await expect(here.flush()).rejects.toThrow("changed elsewhere");
    here.answer(clash!, "elsewhere");
    await soon();
    expect(shown().wind).toBe(3);
    expect(here.snapshot()).toMatchObject({ clashes: [], saving: { kind: "saved" } });
    expect(server.kept.revision).toBe(2);
  });

  it("asks about it again on a page that is opened new", async () => {
    server.elsewhere({ wind: 3 });
    set("wind", 9);
    await soon();
    for (let n = 0; n < 2; n += 1) {
      here = open();
      await soon();
      expect(here.snapshot().clashes).toMatchObject([{ path: ["wind"], here: 9, elsewhere: 3 }]);
    }
    expect(server.kept.document.wind).toBe(3);
  });

  it("saves its own value where that is said to count", async () => {
    server.elsewhere({ wind: 3 });
    set("wind", 9);
    await soon();
    here.answer(here.snapshot().clashes[0]!, "here");
    await soon();
    expect(server.kept).toEqual({ document: { title: "Lake", wind: 9 }, revision: 3 });
  });

  it("never asks how a value is known apart from the value", async () => {
    server.elsewhere({ wind: 3, evidence: { wind: { how: "measured" } } });
    set("wind", 9);
    set("evidence", { wind: { how: "typed" } });
    await soon();
    const asked = here.snapshot().clashes.filter((c) => c.path[0] !== "evidence");
    expect(asked).toHaveLength(1);
    here.answer(asked[0]!, "elsewhere");
    await soon();
    expect(shown()).toEqual({
      title: "Lake",
      wind: 3,
      evidence: { wind: { how: "measured" } },
    });
    expect(here.snapshot().clashes).toEqual([]);
  });

  it("never asks about a field that only says something of others", async () => {
    const unasked = (path: (string | number)[]) => path[0] === "title";
    const source = { name: "8", put: server.put, get: server.get, reduce, unasked };
    here = new OpenDocument<Doc>(source, server.kept, shelf);
    server.elsewhere({ title: "there", wind: 3 });
    set("title", "here");
    set("wind", 9);
    await soon();
    expect(here.snapshot().clashes.map((c) => c.path)).toEqual([["wind"]]);
    expect(shown().title).toBe("here");
  });

  it("takes in what was saved elsewhere while nothing waits here", async () => {
    server.elsewhere({ wind: 3 });
    await here.refresh();
    expect(shown().wind).toBe(3);
    await soon();
    expect(server.puts).toEqual([]);
  });

  it("undoes its own change and leaves what came from elsewhere", async () => {
    set("wind", 9);
    await soon();
    server.elsewhere({ title: "Lake at dusk" });
    await here.refresh();
    here.act({ kind: "undo" });
    expect(shown()).toEqual({ title: "Lake at dusk", wind: 5 });
    await soon();
    expect(server.kept.document).toEqual({ title: "Lake at dusk", wind: 5 });
  });

  it("ignores news that are older than what it has", () => {
    const old = server.kept;
    server.elsewhere({ wind: 3 });
    here.arrived(server.kept);
    here.arrived(old);
    expect(shown().wind).toBe(3);
  });

  describe("whose save was taken, though no answer came", () => {
    beforeEach(async () => {
      server.deaf = true;
      set("wind", 9);
      await soon();
      server.deaf = false;
      expect(server.kept).toMatchObject({ document: { wind: 9 }, revision: 2 });
      expect(here.snapshot().saving.kind).toBe("failed");
    });

    it("is not asked about its own change, and the last one counts", async () => {
      set("wind", 7);
      await soon();
      expect(server.kept.document.wind).toBe(7);
      expect(here.snapshot()).toMatchObject({ clashes: [], saving: { kind: "saved" } });
      expect(shelf.length).toBe(0);
    });

    it("is not either on a page that is opened new, with what it had before", async () => {
      const next = open({ document: { title: "Lake", wind: 5 }, revision: 1 });
      expect(shown(next).wind).toBe(9);
      set("wind", 7, next);
      await soon();
      expect(server.kept.document.wind).toBe(7);
      expect(next.snapshot().clashes).toEqual([]);
    });

    it.each([false, true])(
      "on two pages, one after the other, the last of both counts (newest first: %s)",
      async (newestFirst) => {
        const second = open();
        server.deaf = true;
        set("wind", 7, second);
        await soon();
        server.deaf = false;
        expect(server.kept.document.wind).toBe(7);
        shelf.newestFirst = newestFirst;
        const third = open();
        expect(shown(third).wind).toBe(7);
        await soon();
        expect(server.kept.document.wind).toBe(7);
        expect(third.snapshot().clashes).toEqual([]);
      },
    );

    it("can be undone", async () => {
      here.act({ kind: "undo" });
      await soon();
      expect(shown().wind).toBe(5);
      expect(server.kept.document.wind).toBe(5);
    });

    it("keeps what another device changed beside it, and asks where it changed the same", async () => {
      server.elsewhere({ title: "Lake at dusk" });
      set("wind", 7);
      await soon();
      expect(server.kept.document).toEqual({ title: "Lake at dusk", wind: 7 });
      server.deaf = true;
      set("wind", 6);
      await soon();
      server.deaf = false;
      server.elsewhere({ wind: 3 });
      set("wind", 8);
      await soon();
      expect(here.snapshot().clashes).toMatchObject([{ path: ["wind"], here: 8, elsewhere: 3 }]);
    });
  });
});
