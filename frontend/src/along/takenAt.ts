import { clock, day, hereAt, isoOf } from "../shell/time";

/** When something was taken along, by this device's clock: the day is said when it was another one. */
export function takenAt(iso: string, now = new Date()): string {
  const at = isoOf(hereAt(new Date(iso)));
  const same = day(at) === day(isoOf(hereAt(now)));
  return same ? `at ${clock(at)}` : `${day(at)}, ${clock(at)}`;
}
