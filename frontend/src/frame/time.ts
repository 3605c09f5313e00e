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
  const minutes = -new Date(local).getTimezoneOffset();
  const sign = minutes < 0 ? "-" : "+";
  const two = (n: number) => String(Math.floor(Math.abs(n))).padStart(2, "0");
  return `${sign}${two(minutes / 60)}:${two(minutes % 60)}`;
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
  if (minutes < -1) return "dated ahead of now";
  if (minutes < 2) return "as of now";
  if (minutes < 60) return `${minutes} min old`;
  if (minutes < 48 * 60) return `${Math.round(minutes / 60)} h old`;
  return `${Math.round(minutes / 1440)} days old`;
}

/** "just now", "12 min ago", "3 h ago". */
export function ago(then: Date, now: Date): string {
  return since(then, now).replace("as of now", "just now").replace(/ old$/, " ago");
}

/** A moment that was recorded, on this machine's wall: "Sun 27 Sep 2026, 07:29". */
export function moment(iso: string): string {
  const at = new Date(iso);
  const two = (n: number) => String(n).padStart(2, "0");
  return (
    `${DAYS[at.getDay()]} ${at.getDate()} ${MONTHS[at.getMonth()]} ${at.getFullYear()}, ` +
    `${two(at.getHours())}:${two(at.getMinutes())}`
  );
}

/** The day that it is here, as documents write it. */
export function today(): string {
  const now = new Date();
  const two = (n: number) => String(n).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
