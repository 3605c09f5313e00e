import fc from "fast-check";
import { beforeEach, describe, expect, test, vi } from "vitest";
import { Problem, type Answer, type OnSite, type Said } from "../src/api/client";
import { onSiteWith } from "../src/outbox/onSite";
import { sendWords, type Put } from "../src/outbox/sending";
import { keepWord, letGo, readAnew, withWords, wordsWaiting } from "../src/outbox/words";
import { Store } from "./store";

const done = (item: string): Said => ({ item, word: "done" });
const nothing = () => Promise.resolve();
const out: Put = () => Promise.reject(new Problem(0, "out of reach"));
const takes: Put = () => Promise.resolve({});

beforeEach(() => {
  vi.stubGlobal("localStorage", new Store());
  readAnew();
});

describe("what is said", () => {
  test("is kept until the server has it, also over a reload", async () => {
    keepWord(1, "kit", done("cloth"));
    expect(await sendWords(nothing, out)).toEqual({ outOfReach: true, refused: null });
    readAnew();
    expect(wordsWaiting().map((w) => w.said.item)).toEqual(["cloth"]);
    expect(await sendWords(nothing, takes)).toEqual({ outOfReach: false, refused: null });
    expect(wordsWaiting()).toEqual([]);
    expect(localStorage.length).toBe(0);
  });

  test("last counts, item by item", () => {
    keepWord(1, "kit", done("cloth"));
    keepWord(1, "kit", done("cards"));
    keepWord(1, "kit", { item: "cloth", word: null });
    keepWord(2, "kit", done("cloth"));
    const here = wordsWaiting().filter((w) => w.session === 1);
    expect(here.map((w) => [w.said.item, w.said.word])).toEqual([
      ["cards", "done"],
      ["cloth", null],
    ]);
  });

  test("while a word is on its way stays, and goes up with it", async () => {
    keepWord(1, "kit", done("cloth"));
    const sent: (string | null)[] = [];
    const slow: Put = async ({ said }) => {
      sent.push(said.word);
      if (sent.length === 1) keepWord(1, "kit", { item: "cloth", word: null });
      return {};
    };
    await sendWords(nothing, slow);
    expect(sent).toEqual(["done", null]);
    expect(wordsWaiting()).toEqual([]);
  });

  test("goes up at once as said now, though the clock jumps; one that failed, with its age", async () => {
    vi.useFakeTimers();
    try {
      const ages: number[] = [];
      const heard: Put = (_, ago_s) => {
        ages.push(ago_s);
        return Promise.resolve({});
      };
      keepWord(1, "kit", done("cloth"));
      vi.setSystemTime(Date.now() + 2_000);
      await sendWords(nothing, heard);
      keepWord(1, "kit", done("cards"));
      await sendWords(nothing, out);
      vi.setSystemTime(Date.now() + 2_000);
      await sendWords(nothing, heard);
      expect(ages).toEqual([0, 2]);
    } finally {
      vi.useRealTimers();
    }
  });

  test("that waited for the answer to an earlier one is later than that", async () => {
    vi.useFakeTimers();
    try {
      const ages: number[] = [];
      const slow: Put = (_, ago_s) => {
        ages.push(ago_s);
        if (ages.length === 1) {
          keepWord(1, "kit", { item: "cloth", word: null });
          vi.setSystemTime(Date.now() + 60_000);
        }
        return Promise.resolve({});
      };
      keepWord(1, "kit", done("cloth"));
      await sendWords(nothing, slow);
      expect(ages).toEqual([0, 0]);
    } finally {
      vi.useRealTimers();
    }
  });

  test("is let go of only after what is shown has followed", async () => {
    keepWord(1, "kit", done("cloth"));
    let waited = -1;
    await sendWords(async () => void (waited = wordsWaiting().length), takes);
    expect(waited).toBe(1);
  });

  test("and refused is told, and does not hold up the rest", async () => {
    keepWord(1, "kit", done("gone"));
    keepWord(1, "kit", done("cloth"));
    const problem = new Problem(404, "there is no session 1");
    const picky: Put = ({ said }) =>
      said.item === "gone" ? Promise.reject(problem) : Promise.resolve({});
    expect(await sendWords(nothing, picky)).toEqual({
      outOfReach: false,
      refused: { session: 1, problem },
    });
    expect(wordsWaiting()).toEqual([]);
  });

  test.each([401, 408, 429, 500])(
    "waits after an answer of %i, which is not about it",
    async (status) => {
      keepWord(1, "kit", done("cloth"));
      const put: Put = () => Promise.reject(new Problem(status, "not now"));
      expect((await sendWords(nothing, put)).outOfReach).toBe(true);
      expect(wordsWaiting()).toHaveLength(1);
    },
  );

  test("goes up with how long ago it was, whatever the clock says", async () => {
    vi.useFakeTimers({ now: 1_800_000_000_000 });
    keepWord(1, "kit", done("cloth"));
    vi.setSystemTime(1_800_000_090_000);
    const put = vi.fn(takes);
    await sendWords(nothing, put);
    expect(put.mock.lastCall![1]).toBe(90);
    keepWord(1, "kit", done("cloth"));
    vi.setSystemTime(1_700_000_000_000); // the clock was set back
    await sendWords(nothing, put);
    expect(put.mock.lastCall![1]).toBe(0);
    vi.useRealTimers();
  });

  test("in another window is not let go of by this one", () => {
    keepWord(1, "kit", done("cloth"));
    const mine = wordsWaiting()[0]!;
    const theirs = { ...mine, uid: "another", said: { item: "cloth", word: null } };
    localStorage.setItem("lark.said.1.kit.cloth", JSON.stringify(theirs));
    letGo(mine);
    readAnew();
    expect(wordsWaiting()).toEqual([theirs]);
  });

  test("shows as the server will have it, whatever it says meanwhile", () => {
    const items = fc.constantFrom("a", "b", "c");
    const words = fc.constantFrom("done", "fault", null);
    fc.assert(
      fc.property(fc.array(fc.tuple(items, words)), fc.array(items), (said, before) => {
        vi.stubGlobal("localStorage", new Store());
        readAnew();
        const answer: Answer = { word: "skip", value: null, note: "none", said_at: "2026" };
        const had = Object.fromEntries(before.map((item) => [item, answer]));
        const model = new Map<string, string>(before.map((item) => [item, "skip"]));
        for (const [item, word] of said) {
          keepWord(1, "walkround", { item, word });
          if (word) model.set(item, word);
          else model.delete(item);
        }
        const shown = Object.entries(withWords(had, wordsWaiting()));
        expect(new Map(shown.map(([item, { word }]) => [item, word]))).toEqual(model);
      }),
    );
  });
});

test("a gate follows from its answers", () => {
  const item = (key: string) => ({ key, answer: null });
  const site = {
    looks: [item("wires")],
    gates: [{ name: "Airframe", items: [item("arms"), item("cover")], open: 2, stopped: false }],
  } as unknown as OnSite;
  const fault: Answer = { word: "fault", value: null, note: "", said_at: "2026" };
  const stopped = onSiteWith(site, "walkround", (key, now) => (key === "arms" ? fault : now));
  expect(stopped.gates[0]).toMatchObject({ open: 1, stopped: true });
  const mended = onSiteWith(stopped, "walkround", (key, now) => (key === "arms" ? null : now));
  expect(mended.gates[0]).toMatchObject({ open: 2, stopped: false });
  expect(onSiteWith(site, "look_round", () => fault).looks[0]!.answer).toEqual(fault);
  expect(onSiteWith(site, "look_round", () => fault).gates).toBe(site.gates);
});
