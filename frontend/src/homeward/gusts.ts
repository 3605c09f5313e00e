/** Gusts of the Dryden spectrum, exactly discretised; as the core has them, which names the source. */

const FOOT_M = 0.3048;
const LEAST_AIRSPEED_MS = 0.5;
const ROOT3 = Math.sqrt(3);

/** Scale length of horizontal gusts at a height above the ground [m]. */
export function scaleLengthM(height_m: number): number {
  const feet = Math.min(Math.max(height_m / FOOT_M, 10), 1000);
  return (FOOT_M * feet) / Math.pow(0.177 + 0.000823 * feet, 1.2);
}

/** Gusts of one standard deviation, along and across the mean wind. */
export class Gusts {
  along: number;
  private first: number;
  private second: number;

  constructor([a, b, c]: readonly [number, number, number]) {
    this.along = a;
    this.first = Math.sqrt(0.5) * b;
    this.second = Math.sqrt(0.125) * (b + c);
  }

  get across(): number {
    return ROOT3 * this.first + (1 - ROOT3) * this.second;
  }

  /** A step later, by three standard normal numbers. */
  goOn(
    [a, b, c]: readonly [number, number, number],
    airspeed_ms: number,
    height_m: number,
    step_s: number,
  ) {
    const r = (step_s * Math.max(airspeed_ms, LEAST_AIRSPEED_MS)) / scaleLengthM(height_m);
    const fade = Math.exp(-r);
    const f2 = fade * fade;
    this.along = fade * this.along + Math.sqrt(1 - f2) * a;
    const root = Math.sqrt((1 - f2) / 2);
    const shared = (1 - f2 * (1 + 2 * r)) / 4 / root;
    const rest = Math.sqrt(Math.max((1 - f2 * (1 + 2 * r * (1 + r))) / 4 - shared * shared, 0));
    this.second = fade * (this.second + r * this.first) + shared * b + rest * c;
    this.first = fade * this.first + root * b;
  }

  copy(): Gusts {
    return Object.assign(Object.create(Gusts.prototype) as Gusts, this);
  }
}
