import { notify } from "../shell/notify";
import type { Call } from "./clock";

export const WORDS: Record<Call, { large: string; small: string }> = {
  half: { large: "Halfway to turn-back", small: "Half of what may be spent out there is spent." },
  missed: { large: "Read the charge", small: "Last reading is old. Glance and tap." },
  soon: { large: "Turn back in 1 min", small: "Finish this one shot." },
  fast: { large: "Battery draining fast", small: "Faster than it should. Look at why." },
  turn_back: { large: "Turn back now", small: "Any later and you land below your reserve." },
  land: { large: "Land now", small: "You’ve reached your reserve." },
};

/** Calls that do not wait for the end of a shot. */
export const URGENT: ReadonlySet<Call> = new Set(["turn_back", "land", "fast"]);

export type AlertTone = "stay" | "care";

/** How an alert of the clock stands there. */
export const toneOf = (call: Call | undefined): AlertTone | null =>
  call === undefined ? null : URGENT.has(call) ? "stay" : "care";

/** Its words with its mark, so that it is told by more than a colour. */
export const largeOf = (call: Call) => `${URGENT.has(call) ? "◆ " : "● "}${WORDS[call].large}`;

/** Tones of a call: frequency [Hz] and seconds, one after another; the urgent ones rise. */
const TONES: Record<Call, [number, number][]> = {
  half: [[660, 0.15]],
  missed: [
    [520, 0.12],
    [520, 0.12],
  ],
  soon: [
    [660, 0.15],
    [780, 0.15],
  ],
  fast: [
    [880, 0.12],
    [520, 0.25],
  ],
  turn_back: [
    [660, 0.18],
    [880, 0.18],
    [1040, 0.35],
  ],
  land: [
    [1040, 0.2],
    [1040, 0.2],
    [1040, 0.45],
  ],
};

const VIBRATION: Record<Call, number[]> = {
  half: [120],
  missed: [80, 80, 80],
  soon: [200, 100, 200],
  fast: [300, 80, 80, 80, 300],
  turn_back: [400, 120, 400, 120, 400],
  land: [600, 100, 600, 100, 600],
};

/** Calls that are made again and again until they are answered [s]. */
export const AGAIN_S: Partial<Record<Call, number>> = {
  turn_back: 15,
  land: 12,
  fast: 30,
  missed: 45,
};

/** So long a call that was heard is not made again [s]: it is never silenced for good while it holds. */
export const HEARD_S = 60;

let audio: AudioContext | null = null;

/** A touch lets the page make tones later; browsers ask for one. */
export function allowTones() {
  try {
    audio ??= new AudioContext();
    void audio.resume();
  } catch {
    audio = null; // no tones here: vibration and words are left
  }
}

/** Say a call by all that this device has: tone and vibration, and a notification while Lark is not looked at. */
export function call(what: Call) {
  sound(what);
  if (document.visibilityState === "hidden")
    notify("lark.alert", WORDS[what].large, WORDS[what].small);
}

/** Say a call by tone and vibration. */
export function sound(call: Call) {
  navigator.vibrate?.(VIBRATION[call]);
  if (!audio) return;
  let at = audio.currentTime;
  for (const [frequency, seconds] of TONES[call]) {
    const tone = audio.createOscillator();
    const loud = audio.createGain();
    tone.frequency.value = frequency;
    loud.gain.setValueAtTime(0.4, at);
    loud.gain.linearRampToValueAtTime(0, at + seconds);
    tone.connect(loud).connect(audio.destination);
    tone.start(at);
    tone.stop(at + seconds);
    at += seconds + 0.06;
  }
}

/** Keep the screen awake where the browser can; asked for again when the page is looked at again. */
export function keepAwake(): () => void {
  let lock: WakeLockSentinel | null = null;
  let over = false;
  const ask = async () => {
    if (over || document.visibilityState !== "visible") return;
    try {
      lock = (await navigator.wakeLock?.request("screen")) ?? null;
      if (over) void lock?.release();
    } catch {
      lock = null; // refused, for example on a low battery
    }
  };
  void ask();
  document.addEventListener("visibilitychange", ask);
  return () => {
    over = true;
    document.removeEventListener("visibilitychange", ask);
    void lock?.release();
  };
}
