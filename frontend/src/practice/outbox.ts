import { isRefused } from "../api/client";
import { drop, keep, keptFrom } from "../shell/device";

const MONTH_S = 30 * 86_400;

/** What waits on this device for the server: each under a number of its own, so that sent again it is there once. */
export interface Outbox<T> {
  keep: (item: T) => void;
  letGo: (uid: string) => void;
  /** The first first: that is how the scheduler hears them. */
  waiting: () => T[];
  /** Send what waits; how many went up. What the server will never take is let go of. */
  send: (by: (item: T, ago_s: number) => Promise<unknown>) => Promise<number>;
}

export function outbox<T extends { at: string }>(
  start: string,
  uidOf: (item: T) => string,
): Outbox<T> {
  let running: Promise<number> | null = null;
  const waiting = () => keptFrom<T>(start).sort((a, b) => a.at.localeCompare(b.at));
  const letGo = (uid: string) => drop(start + uid);
  const sendAll = async (by: (item: T, ago_s: number) => Promise<unknown>) => {
    let sent = 0;
    for (const item of waiting()) {
      const ago_s = Math.min(Math.max((Date.now() - Date.parse(item.at)) / 1000, 0), MONTH_S);
      try {
        await by(item, ago_s);
        sent += 1;
      } catch (error) {
        if (!isRefused(error)) return sent;
      }
      letGo(uidOf(item));
    }
    return sent;
  };
  return {
    keep: (item) => void keep(start + uidOf(item), item),
    letGo,
    waiting,
    send(by) {
      running ??= sendAll(by).finally(() => {
        running = null;
      });
      return running;
    },
  };
}
