/** Times as a pilot reads them. A plan's times are shown in the offset that they were written in. */

const DAYS = ["Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"];
const MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split(" ");

export interface WallTime {
  /** YYYY-MM-DDTHH:MM as it stands on the wall at the place. */
  local: string;
  /** +03:00 or Z. */
  offset: string;
}

/** The parts of an ISO time, without moving it to this machine's zone. */
export function wallTime(iso: string): WallTime {
  const found = /^(\d{4}-\d\d-\d\dT\d\d:\d\d)(?::\d\d(?:\.\d+)?)?(Z|[+-]\d\d:\d\d)$/.exec(iso);
  if (!found) throw new Error(`not a time with an offset: ${iso}`);
  return { local: found[1]!, offset: found[2]! };
}

/** The ISO time of a wall time. */
export function isoOf({ local, offset }: WallTime): string {
  return `${local}:00${offset}`;
}

/** This machine's offset at a wall time, like +03:00. */
export function offsetHere(local: string): string {
  return written(-new Date(local).getTimezoneOffset());
}

/** "Sun 27 Sep 2026". */
export function day(iso: string): string {
  const { local } = wallTime(iso);
  const date = new Date(`${local.slice(0, 10)}T00:00:00Z`);
  return `${DAYS[date.getUTCDay()]} ${date.getUTCDate()} ${MONTHS[date.getUTCMonth()]} ${date.getUTCFullYear()}`;
}

/** "07:40". */
export function clock(iso: string): string {
  return wallTime(iso).local.slice(11);
}

/** "now", "12 min old", "3 h old", "5 days old"; a time ahead is "for later". */
export function since(then: Date, now: Date): string {
  const minutes = Math.round((now.getTime() - then.getTime()) / 60_000);
  if (minutes < -1) return "dated in the future";
  if (minutes < 2) return "current";
  if (minutes < 60) return `${minutes} min old`;
  if (minutes < 48 * 60) return `${Math.round(minutes / 60)} h old`;
  return `${Math.round(minutes / 1440)} days old`;
}

/** "just now", "12 min ago", "3 h ago". */
export function ago(then: Date, now: Date): string {
  return since(then, now).replace("current", "just now").replace(/ old$/, " ago");
}

/** A moment on the wall that it was written for: "Sun 27 Sep 2026, 07:29". */
export function moment(iso: string): string {
  return `${day(iso)}, ${clock(iso)}`;
}

/** A moment on this machine's wall, as when something was changed here. */
export function momentHere(iso: string): string {
  return moment(isoOf(hereAt(new Date(iso))));
}

/** An instant on this machine's wall. */
export function hereAt(at: Date): WallTime {
  const two = (n: number) => String(n).padStart(2, "0");
  const date = `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
  const local = `${date}T${two(at.getHours())}:${two(at.getMinutes())}`;
  return { local, offset: offsetHere(local) };
}

/** The offset of a time zone (IANA) at a wall time, like +03:00. */
export function offsetIn(zone: string, local: string): string {
  const wall = Date.parse(`${local}:00Z`);
  if (Number.isNaN(wall)) return "+00:00";
  // The offset of the wall time taken for UTC is right but near a clock change: once more from there.
  const near = offsetAt(zone, wall);
  return written(offsetAt(zone, wall - near * 60_000));
}

function offsetAt(zone: string, instant: number): number {
  const parts = new Intl.DateTimeFormat("en", { timeZone: zone, timeZoneName: "longOffset" });
  const name = parts.formatToParts(instant).find((p) => p.type === "timeZoneName")?.value ?? "";
  const found = /([+-])(\d\d):(\d\d)/.exec(name);
  return found ? (found[1] === "-" ? -1 : 1) * (Number(found[2]) * 60 + Number(found[3])) : 0;
}

/** An instant on the wall of a time zone. */
export function wallIn(zone: string, iso: string): WallTime {
  const minutes = offsetAt(zone, Date.parse(iso));
  const local = new Date(Date.parse(iso) + minutes * 60_000).toISOString().slice(0, 16);
  return { local, offset: written(minutes) };
}

function written(minutes: number): string {
  const two = (n: number) => String(Math.floor(Math.abs(n))).padStart(2, "0");
  return `${minutes < 0 ? "-" : "+"}${two(minutes / 60)}:${two(Math.abs(minutes) % 60)}`;
}

/** The day that it is here, as documents write it. */
export function today(): string {
  const now = new Date();
  const two = (n: number) => String(n).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
