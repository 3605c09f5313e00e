import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem, type Plan } from "../src/api/client";
import { draftOf, Saver, type Drafts, type SaveState } from "../src/editing/saver";

const plan = (title: string) => ({ title }) as Plan;

class Shelf implements Drafts {
  kept = new Map<string, string>();
  getItem = (key: string) => this.kept.get(key) ?? null;
  setItem = (key: string, value: string) => void this.kept.set(key, value);
  removeItem = (key: string) => void this.kept.delete(key);
}

describe("the saver", () => {
  let shelf: Shelf;
  let sent: { title: string; revision: number }[];
  let states: SaveState["kind"][];
  let answer: () => Promise<void>;
  let saver: Saver<Plan>;

  beforeEach(() => {
    vi.useFakeTimers();
    shelf = new Shelf();
    sent = [];
    states = [];
    answer = () => Promise.resolve();
    const put = async (p: Plan, revision: number) => {
      sent.push({ title: p.title, revision });
      await answer();
      return { revision: revision + 1 };
    };
    saver = new Saver<Plan>("7", 1, put, shelf, (s) => states.push(s.kind), 400);
  });
  afterEach(() => vi.useRealTimers());

  it("sends only the last of a burst", async () => {
    for (const t of ["a", "b", "c"]) saver.offer(plan(t));
    await vi.advanceTimersByTimeAsync(500);
    expect(sent).toEqual([{ title: "c", revision: 1 }]);
    expect(new Set(states)).toEqual(new Set(["saving", "saved"]));
    expect(states.at(-1)).toBe("saved");
  });

  it("saves one at a time, each from the revision before", async () => {
    let release = () => {};
    answer = () => new Promise<void>((done) => (release = done));
    saver.offer(plan("a"));
    await vi.advanceTimersByTimeAsync(500);
    saver.offer(plan("b"));
    await vi.advanceTimersByTimeAsync(500);
    expect(sent).toHaveLength(1);
    answer = () => Promise.resolve();
    release();
    await vi.advanceTimersByTimeAsync(500);
    expect(sent).toEqual([
      { title: "a", revision: 1 },
      { title: "b", revision: 2 },
    ]);
  });

  it("keeps a draft until it is saved, also when saving fails", async () => {
    answer = () => Promise.reject(new Problem(0, "out of reach"));
    saver.offer(plan("a"));
    expect(draftOf("7", shelf)).toMatchObject({ revision: 1, document: { title: "a" } });
    await vi.advanceTimersByTimeAsync(500);
    expect(states.at(-1)).toBe("failed");
    expect(draftOf<Plan>("7", shelf)?.document.title).toBe("a");
    answer = () => Promise.resolve();
    expect(await saver.flush()).toBe(2);
    expect(draftOf("7", shelf)).toBeNull();
  });

  it("flushes at once and says the revision, or why not", async () => {
    saver.offer(plan("a"));
    expect(await saver.flush()).toBe(2);
    answer = () => Promise.reject(new Problem(409, "saved elsewhere"));
    saver.offer(plan("b"));
    await expect(saver.flush()).rejects.toThrow("saved elsewhere");
  });

  it("leaves another window's draft alone", async () => {
    saver.offer(plan("mine"));
    shelf.setItem("lark.draft.7", JSON.stringify({ owner: "other", revision: 1, document: {} }));
    await saver.flush();
    expect(draftOf("7", shelf)?.owner).toBe("other");
  });

  it("takes a damaged draft for none", () => {
    shelf.setItem("lark.draft.7", "{oops");
    expect(draftOf("7", shelf)).toBeNull();
  });
});
