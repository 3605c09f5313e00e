/**
 * Seconds since take-off that outlast a reload, a sleeping screen and a clock that is set.
 *
 * While the page lives, the wall clock is held against the one that only goes forward, both counted from one moment,
 * so that coarse ones add up no error. What the wall has more is time slept, or a clock set ahead: it counts, as the
 * later time is the careful one. What it has less is a clock set back: it does not count, but time slept meanwhile is
 * not seen then, and the time is not certain. Over a reload only the wall clock is left; set back meanwhile, the time
 * stands where it was last seen.
 */
export interface Kept {
  /** Seconds since take-off when it was last looked at. */
  elapsed_s: number;
  /** The wall clock then [ms]. */
  wall_ms: number;
}

export interface Clocks {
  wall: () => number;
  /** Only goes forward, from anywhere [ms]. */
  steady: () => number;
}

export const CLOCKS: Clocks = { wall: () => Date.now(), steady: () => performance.now() };

/** A difference from which it is said that the clock jumped [ms]. */
const JUMP_MS = 3_000;

export class Timekeeper {
  /** Where both clocks stood when `from_s` was the time. */
  private wall_ms: number;
  private steady_ms: number;
  private from_s: number;
  private elapsed_s: number;
  private looked_ms: number;
  /** What was noticed: "back" for a clock set back, "ahead" for time slept or a clock set ahead. */
  jumped: "back" | "ahead" | null = null;

  constructor(
    kept: Kept,
    private readonly clocks: Clocks = CLOCKS,
  ) {
    const away = clocks.wall() - kept.wall_ms;
    if (away < -JUMP_MS) this.jumped = "back";
    this.from_s = this.elapsed_s = kept.elapsed_s + Math.max(away, 0) / 1000;
    this.wall_ms = this.looked_ms = clocks.wall();
    this.steady_ms = clocks.steady();
  }

  /** A flight that begins now. */
  static begin(clocks: Clocks = CLOCKS): Timekeeper {
    return new Timekeeper({ elapsed_s: 0, wall_ms: clocks.wall() }, clocks);
  }

  /** Seconds since take-off. Never less than it said before. */
  now(): number {
    const wall = this.clocks.wall();
    const steady = this.clocks.steady();
    this.looked_ms = wall;
    const byWall = wall - this.wall_ms;
    const bySteady = Math.max(steady - this.steady_ms, 0);
    const elapsed = this.from_s + Math.max(byWall, bySteady) / 1000;
    this.elapsed_s = Math.max(elapsed, this.elapsed_s);
    if (Math.abs(byWall - bySteady) > JUMP_MS) {
      this.jumped = byWall < bySteady ? "back" : (this.jumped ?? "ahead");
      [this.from_s, this.wall_ms, this.steady_ms] = [this.elapsed_s, wall, steady];
    }
    return this.elapsed_s;
  }

  /** What is to be remembered, so that a reload goes on from here. */
  remember(): Kept {
    return { elapsed_s: this.elapsed_s, wall_ms: this.looked_ms };
  }
}
