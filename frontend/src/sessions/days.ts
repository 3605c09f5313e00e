import type { SessionSummary, Windows } from "../api/client";
import { wallTime } from "../shell/time";

export const DAYS = 7;
const DAY_MS = 24 * 3600_000;
/** About how much of a day a mark covers, so that two closer than this stand one above the other [h]. */
const MARK_H = 3;

export interface Marked {
  session: SessionSummary;
  /** Hours after midnight at the place. */
  hour: number;
  /** Which row it stands in, so that none covers another. */
  row: number;
}

export interface Span {
  from: number;
  to: number;
}

export interface Day {
  /** Midnight as a date without a zone, "2026-11-28". */
  date: string;
  marks: Marked[];
  windows: Span[];
}

function hourOf(local: string): number {
  return Number(local.slice(11, 13)) + Number(local.slice(14, 16)) / 60;
}

/** The dates of the days ahead, from today on. */
export function dates(now: Date, count = DAYS): string[] {
  const two = (n: number) => String(n).padStart(2, "0");
  return Array.from({ length: count }, (_, i) => {
    const d = new Date(now.getFullYear(), now.getMonth(), now.getDate() + i);
    return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}`;
  });
}

/** A window's part of a day, in hours after midnight at the place; null where it has none. */
function part(date: string, begin: string, end: string): Span | null {
  const midnight = Date.parse(`${date}T00:00Z`);
  const wall = (iso: string) => Date.parse(`${wallTime(iso).local}Z`);
  const from = Math.max(wall(begin), midnight);
  const to = Math.min(wall(end), midnight + DAY_MS);
  return to > from ? { from: (from - midnight) / 3600_000, to: (to - midnight) / 3600_000 } : null;
}

/** The days ahead with the sessions that begin in them and the launch windows that are known. */
export function daysAhead(
  sessions: SessionSummary[],
  windows: Windows["planned"],
  now: Date,
): Day[] {
  return dates(now).map((date) => {
    const rows: number[] = [];
    const marks = sessions
      .map((session) => ({ session, local: wallTime(session.takeoff_at).local }))
      .filter(({ local }) => local.startsWith(date))
      .sort((a, b) => a.local.localeCompare(b.local))
      .map(({ session, local }) => {
        const hour = hourOf(local);
        const free = rows.findIndex((last) => hour - last >= MARK_H);
        const row = free < 0 ? rows.length : free;
        rows[row] = hour;
        return { session, hour, row };
      });
    const spans = windows
      .map((w) => part(date, w.begin, w.end))
      .filter((span): span is Span => span !== null);
    return { date, marks, windows: spans };
  });
}
