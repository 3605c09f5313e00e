import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import type { Call } from "../src/flight/clock";

interface Tone {
  hertz: number;
  from: number;
  to: number;
}

/** What was asked of the device: tones with their times, vibrations, locks of the screen. */
const asked = { tones: [] as Tone[], vibrations: [] as number[][], locks: 0, released: 0 };
const heard = new Map<string, () => void>();

class Sounding {
  currentTime = 3;
  destination = {};
  resume = () => Promise.resolve();
  createOscillator() {
    const tone = { hertz: 0, from: 0, to: 0 };
    const frequency = {
      set value(hertz: number) {
        tone.hertz = hertz;
      },
    };
    return {
      frequency,
      connect: (next: unknown) => next,
      start: (at: number) => void (tone.from = at),
      stop: (at: number) => {
        tone.to = at;
        asked.tones.push(tone);
      },
    };
  }
  createGain = () => ({
    gain: { setValueAtTime: () => undefined, linearRampToValueAtTime: () => undefined },
    connect: (next: unknown) => next,
  });
}

const CALLS: Call[] = ["half", "missed", "soon", "fast", "turn_back", "land"];
const page = { visibilityState: "visible" };

beforeEach(() => {
  Object.assign(asked, { tones: [], vibrations: [], locks: 0, released: 0 });
  page.visibilityState = "visible";
  vi.resetModules();
  vi.stubGlobal("AudioContext", Sounding);
  vi.stubGlobal("navigator", {
    vibrate: (pattern: number[]) => asked.vibrations.push(pattern),
    wakeLock: {
      request: async () => {
        asked.locks += 1;
        return { release: async () => void (asked.released += 1) };
      },
    },
  });
  vi.stubGlobal("document", {
    get visibilityState() {
      return page.visibilityState;
    },
    addEventListener: (name: string, f: () => void) => heard.set(name, f),
    removeEventListener: (name: string) => heard.delete(name),
  });
});
afterEach(() => vi.unstubAllGlobals());

/** The module anew: it remembers whether a touch has allowed tones. */
const calling = () => import("../src/flight/calling");

describe("a call", () => {
  test("vibrates, and has tones only after a touch", async () => {
    const { allowTones, sound } = await calling();
    sound("land");
    expect(asked.vibrations).toHaveLength(1);
    expect(asked.tones).toEqual([]);
    allowTones();
    sound("land");
    expect(asked.tones.length).toBeGreaterThan(1);
  });

  test("is told from every other by its tones and by its vibration", async () => {
    const { allowTones, sound } = await calling();
    allowTones();
    const melodies = CALLS.map((call) => {
      asked.tones = [];
      sound(call);
      return asked.tones.map((t) => `${t.hertz} Hz ${(t.to - t.from).toFixed(2)} s`).join(", ");
    });
    expect(new Set(melodies).size).toBe(CALLS.length);
    expect(new Set(asked.vibrations.map(String)).size).toBe(CALLS.length);
  });

  test("is one tone after another, from now on", async () => {
    const { allowTones, sound } = await calling();
    allowTones();
    for (const call of CALLS) {
      asked.tones = [];
      sound(call);
      expect(asked.tones[0]!.from).toBe(3);
      asked.tones.slice(1).forEach((tone, i) => {
        expect(tone.from).toBeGreaterThan(asked.tones[i]!.to);
      });
    }
  });

  test("shakes the longer the more it matters", async () => {
    const { sound } = await calling();
    const shaken = (call: Call) => {
      sound(call);
      return asked.vibrations
        .at(-1)!
        .filter((_, i) => i % 2 === 0)
        .reduce((a, b) => a + b);
    };
    const [half, soon, back, land] = (["half", "soon", "turn_back", "land"] as Call[]).map(shaken);
    expect(half).toBeLessThan(soon!);
    expect(soon).toBeLessThan(back!);
    expect(back).toBeLessThan(land!);
  });

  test("is made again only where something must be done", async () => {
    const { AGAIN_S } = await calling();
    expect(Object.keys(AGAIN_S).sort()).toEqual(["fast", "land", "missed", "turn_back"]);
    expect(AGAIN_S.land!).toBeLessThan(AGAIN_S.turn_back!);
  });

  test("without sound or vibration breaks nothing", async () => {
    vi.stubGlobal("AudioContext", undefined);
    vi.stubGlobal("navigator", {});
    const { allowTones, keepAwake, sound, WORDS } = await calling();
    allowTones();
    for (const call of CALLS) expect(() => sound(call)).not.toThrow();
    expect(() => keepAwake()()).not.toThrow();
    // The words are left, and each says what to do.
    for (const call of CALLS) expect(WORDS[call].large.length).toBeGreaterThan(5);
  });
});

describe("the screen", () => {
  const settled = () => new Promise((done) => setTimeout(done));

  test("is kept awake, asked for again when looked at again, and let go of", async () => {
    const { keepAwake } = await calling();
    const over = keepAwake();
    await settled();
    expect(asked.locks).toBe(1);
    page.visibilityState = "hidden";
    heard.get("visibilitychange")!();
    await settled();
    expect(asked.locks).toBe(1);
    page.visibilityState = "visible";
    heard.get("visibilitychange")!();
    await settled();
    expect(asked.locks).toBe(2);
    over();
    expect(asked.released).toBe(1);
    expect(heard.has("visibilitychange")).toBe(false);
  });

  test("is not held by a flight that was over before the browser answered", async () => {
    const { keepAwake } = await calling();
    keepAwake()();
    await settled();
    expect(asked.released).toBe(asked.locks);
  });
});
