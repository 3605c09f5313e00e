import { beforeEach, describe, expect, it, vi } from "vitest";
import { Problem, type Plan, type Result } from "../src/api/client";
import { decidedWaiting, keepDecided, letGoOf, sendDecided } from "../src/outbox/decided";
import { keepWord, letGo, wordsWaiting } from "../src/outbox/words";
import { Store } from "./store";

const made = (note: string) => ({
  session: 1,
  word: "wait" as const,
  note,
  said: {},
  asked: {},
  plan: {} as Plan,
  result: { verdict: "care", tables_of: "2026-09-27T04:00:00.000Z" } as Result,
});

describe("decisions made without the server", () => {
  beforeEach(() => {
    vi.stubGlobal("localStorage", new Store());
    for (const decided of decidedWaiting()) letGoOf(decided);
    for (const word of wordsWaiting()) letGo(word);
  });

  it("go up once, in their order", async () => {
    keepDecided(made("first"));
    keepDecided(made("second"));
    const put = vi.fn().mockResolvedValue(undefined);
    await Promise.all([sendDecided(put), sendDecided(put)]);
    expect(put.mock.calls.map(([d]) => (d as { note: string }).note)).toEqual(["first", "second"]);
    expect(decidedWaiting()).toEqual([]);
  });

  it("wait while the server is away, and for the answers that they rest on", async () => {
    keepDecided(made("first"));
    await sendDecided(vi.fn().mockRejectedValue(new Problem(0, "gone")));
    expect(decidedWaiting()).toHaveLength(1);
    keepWord(1, "look_round", { item: "wires", word: "done", value: null, note: "" });
    const put = vi.fn().mockResolvedValue(undefined);
    await sendDecided(put);
    expect(put).not.toHaveBeenCalled();
  });

  it("stay with the reason where the server does not take them, and the others go on", async () => {
    keepDecided(made("first"));
    keepDecided(made("second"));
    const put = vi
      .fn()
      .mockRejectedValueOnce(new Problem(422, "Not saved"))
      .mockResolvedValue(undefined);
    expect(await sendDecided(put)).toBe(true);
    expect(decidedWaiting().map(({ note, refused }) => [note, refused])).toEqual([
      ["first", "Not saved"],
    ]);
    await sendDecided(put);
    expect(put).toHaveBeenCalledTimes(2);
  });
});
