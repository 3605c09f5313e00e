import type { Windows, Slot, Window } from "../api/client";
import { wallTime } from "../shell/time";

/** Steps of the shade: shares of the aircraft's wind that are told apart. */
export const SHADES = [0.25, 0.5, 0.8, 1] as const;

/** Which step of the shade a share of the wind is in: 0 calm to 4 over the limit; null not known. */
export function shadeOf(used: number | null | undefined): number | null {
  if (used == null) return null;
  const found = SHADES.findIndex((limit) => used <= limit);
  return found < 0 ? SHADES.length : found;
}

/** Runs of the same thing in a row: [from, to) and what it is. */
export interface Run<T> {
  from: number;
  to: number;
  what: T;
}

export function runs<T>(values: T[]): Run<T>[] {
  const found: Run<T>[] = [];
  values.forEach((what, i) => {
    const last = found.at(-1);
    if (last && last.what === what) last.to = i + 1;
    else found.push({ from: i, to: i + 1, what });
  });
  return found;
}

/** Where a height lies among those drawn, 0 at its lowest. */
export function placeOf(height: number, heights: number[]): number {
  const last = heights.length - 1;
  if (height <= heights[0]!) return 0;
  for (let i = 1; i <= last; i++) {
    const [low, high] = [heights[i - 1]!, heights[i]!];
    if (height <= high) return i - 1 + (height - low) / (high - low);
  }
  return last;
}

/** Where a window stands among the half hours: from and to, to the minute. */
export function placeOfWindow(window: Window, slots: Slot[]): [number, number] {
  const first = Date.parse(slots[0]!.at);
  const place = (at: string) =>
    Math.min(Math.max((Date.parse(at) - first) / 1_800_000, 0), slots.length);
  return [place(window.begin), place(window.end)];
}

/** Ticks of the time axis: full hours, as many as there is room for, midnight with its day. */
export function hourTicks(slots: Slot[], every: number): { at: number; name: string }[] {
  return slots.flatMap((slot, at) => {
    const { local } = wallTime(slot.at);
    const [hour, minute] = [Number(local.slice(11, 13)), local.slice(14, 16)];
    return minute === "00" && hour % every === 0
      ? [{ at, name: String(hour).padStart(2, "0") }]
      : [];
  });
}

/** The wind at a height in one column, from the nearest heights drawn. */
export function windAt(
  look: Windows,
  column: number,
  height: number,
): { speed: number; gust: number; from: number; used: number } | null {
  const { curtain } = look;
  const at = Math.round(placeOf(height, curtain.height_m));
  const [speed, gust, from, used] = [
    curtain.speed_ms[column]?.[at],
    curtain.gust_ms[column]?.[at],
    curtain.direction_deg[column]?.[at],
    curtain.used[column]?.[at],
  ];
  if (speed == null || gust == null || from == null || used == null) return null;
  return { speed, gust, from, used };
}
