const two = (n: number) => String(n).padStart(2, "0");

/** Seconds as minutes and seconds: "4:12". */
export function inClock(seconds: number): string {
  const whole = Math.max(0, Math.round(seconds));
  return `${Math.floor(whole / 60)}:${two(whole % 60)}`;
}

/** The time on the wall after so many seconds, to the minute. */
export function onTheWall(now: Date, seconds: number): string {
  const then = new Date(now.getTime() + seconds * 1000);
  return `${two(then.getHours())}:${two(then.getMinutes())}`;
}

/** The charges that are one touch away, in fives: those around what is expected, never over the last reading. */
export function nearFives(expected: number, last: number, count: number): number[] {
  const top = Math.min(Math.ceil(expected / 5) * 5 + 5, Math.ceil(last / 5) * 5);
  return Array.from({ length: count }, (_, n) => top - 5 * n).filter((v) => v >= 0);
}
