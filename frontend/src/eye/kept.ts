import { client, isRefused, take } from "../api/client";
import type { components } from "../api/schema";
import { drop, keep, kept, keptFrom, number } from "../shell/device";
import type { Said } from "./staircase";

export type Background = components["schemas"]["EyeIn"]["background"];
export type Found = components["schemas"]["EyeFound"];

/** How long a millimetre is on this screen, in CSS pixels, and at which zoom that was set. */
export interface Scale {
  px_per_mm: number;
  zoom: number;
}

const SCALE = "lark.eye.scale";
const LOOK = "lark.eye.look";
const ENDED = "lark.eye.ended.";

/** The scale as it was set; null where it never was, or the page has been zoomed since. */
export function scaleHere(): Scale | null {
  const scale = kept<Scale>(SCALE);
  return scale?.zoom === window.devicePixelRatio ? scale : null;
}

export const keepScale = (px_per_mm: number) =>
  keep(SCALE, { px_per_mm, zoom: window.devicePixelRatio } satisfies Scale);

/** A look under way. Kept on the device after each answer: a reload loses nothing. */
export interface Look {
  uid: string;
  aircraft: string;
  size_m: number;
  background: Background;
  timed: boolean;
  viewing_mm: number;
  said: Said[];
}

export const lookUnderWay = () => kept<Look>(LOOK);
export const keepLook = (look: Look) => keep(LOOK, look);
export const dropLook = () => drop(LOOK);
export const newLook = (of: Omit<Look, "uid" | "said">): Look => ({
  ...of,
  uid: number(),
  said: [],
});

/** A look that has all its answers and is not known to be with the server. */
export interface Ended {
  look: Look;
  at: string;
}

/** The look is over: it waits for the server under its own number. */
export function endLook(look: Look) {
  keep(ENDED + look.uid, { look, at: new Date().toISOString() } satisfies Ended);
  dropLook();
}

export const looksWaiting = () => keptFrom<Ended>(ENDED);

const MONTH_S = 30 * 86_400;

/** How a look goes up; given in tests. */
export type Put = (ended: Ended, ago_s: number) => Promise<Found>;

const put: Put = ({ look: { uid, aircraft, background, timed, said } }, ago_s) =>
  take(
    client.PUT("/api/practice/eye", {
      body: { uid, aircraft, background, timed, said, ago_s },
      keepalive: true,
    }),
  );

export interface Sent {
  /** The server took one, or can't be had now. */
  found: Found | null;
  refused: string | null;
}

let running: Promise<Sent> | null = null;

/** Send the looks that wait, and let go of what the server has or will never take. */
export function sendLooks(by: Put = put): Promise<Sent> {
  running ??= sendAll(by).finally(() => {
    running = null;
  });
  return running;
}

async function sendAll(by: Put): Promise<Sent> {
  const sent: Sent = { found: null, refused: null };
  for (const ended of looksWaiting()) {
    const age_s = Math.max((Date.now() - Date.parse(ended.at)) / 1000, 0);
    try {
      sent.found = await by(ended, Math.min(age_s, MONTH_S));
    } catch (error) {
      if (!isRefused(error)) return sent;
      sent.refused = error.message;
    }
    drop(ENDED + ended.look.uid);
  }
  return sent;
}
