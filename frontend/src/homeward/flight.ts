import { Gusts } from "./gusts";
import {
  apartM,
  cruiseW,
  deckAt,
  fogTopM,
  groundAt,
  grown,
  hypot,
  padTaken,
  shadeDb,
  windAt,
  type Act,
  type End,
  type HomeFlight,
} from "./tables";

/**
 * A flight to bring home, step by step, on the device: the core’s own physics (`core/homeward/flying`), which says what
 * it assumes. Both are held to the same by cases that the core’s tests write.
 */

export type Doing =
  | "hover_check"
  | "rise"
  | "out"
  | "station"
  | "planned"
  | "by_hand"
  | "return_home"
  | "hold"
  | "down";

export type Acts = readonly { at_s: number; act: Act }[];

export interface Ended {
  at_s: number;
  end: End;
  charge_pct: number;
  from_home_m: number;
}

export const STEP_S = 0.5;
export const LONGEST_S = 2700;
const HEIGHT_CHANGE_M = 15;
const LOWEST_M = 10;
const CONTROL_DB = 0;
const PICTURE_DB = 3;
const LOST_AFTER_S = 7;
const WALK_S = 20;
const ICE_A_SECOND = 0.01;
const ICE_DOWN_S = 90;
const BIRD_STRIKES_S = 12;
const BIRD_LEAVES_M = 120;
const BIRD_SLOW_MS = 3;
const ARRIVED_M = 3;
const PAD_M = 12;
const COMES_BACK_S = 4;
const DOWN_M = 0.05;
const ROOM_M = 5;
const HAND_HEIGHT_M = 1.5;
const HOVER_CHECK_S = 30;
const LANDING_S = 30;
export const FORCED_PCT = 15;

const HOMEWARD: ReadonlySet<Doing> = new Set(["planned", "by_hand", "return_home"]);
const TO_PILOT: ReadonlySet<Doing> = new Set(["planned", "by_hand"]);
const STICKS: ReadonlySet<Doing> = new Set(["out", "planned", "by_hand"]);
const UP_FIRST: ReadonlySet<Doing> = new Set(["planned", "return_home"]);
const IN_PLACE: ReadonlySet<Doing> = new Set(["hover_check", "rise", "down"]);
const TO_GROUND: ReadonlySet<Doing> = new Set(["hover_check", "down"]);
const ON_THE_WAY_UP: ReadonlySet<Doing> = new Set(["hover_check", "rise"]);

const clip = (value: number, low: number, high: number) => Math.min(Math.max(value, low), high);

export class Flight {
  at_s = 0;
  x = 0;
  y = 0;
  z = 0;
  wh = 0;
  doing: Doing = "hover_check";
  fast = false;
  target_m: number;
  airspeed_ms = 0;
  ground_ms = 0;
  power_w = 0;
  margin_db = Infinity;
  lost_s = 0;
  forced = false;
  walked_at = Infinity;
  iced_s = 0;
  threat_s = 0;
  ended: Ended | null = null;
  private acted = false;
  private landing_s = 0;
  private follows = false;
  private hold_x = 0;
  private hold_y = 0;
  private steps = 0;
  private todo: { at_s: number; act: Act }[] = [];
  private gusts: Gusts;

  constructor(
    readonly flight: HomeFlight,
    acts: Acts = [],
  ) {
    this.target_m = flight.sheet.height_m;
    this.gusts = new Gusts(this.normalsAt(0));
    this.then(acts);
  }

  /** What the pilot does from now on, in place of what was to be done. */
  then(acts: Acts): this {
    this.todo = [...acts].sort((a, b) => a.at_s - b.at_s).filter((a) => a.at_s >= this.at_s - 1e-9);
    return this;
  }

  /** The pilot does one thing more, now: what was said in the same moment is done before it. */
  and(act: Act): this {
    this.todo = [...this.todo, { at_s: this.at_s, act }];
    return this;
  }

  /** The same flight once more, to be flown on differently. */
  copy(): Flight {
    const other = Object.assign(Object.create(Flight.prototype) as Flight, this);
    other.gusts = this.gusts.copy();
    other.todo = [...this.todo];
    return other;
  }

  private normalsAt(step: number): [number, number, number] {
    const n = this.flight.normals;
    const i = (3 * step) % n.length;
    return [n[i]! / 1000, n[i + 1]! / 1000, n[i + 2]! / 1000];
  }

  get charge_pct(): number {
    const { sheet, mishap } = this.flight;
    const dropped = this.at_s >= mishap.at_s ? mishap.drop_points : 0;
    return Math.max(sheet.charge_pct - (100 * this.wh) / sheet.usable_wh - dropped, 0);
  }

  get picture(): boolean {
    const { mishap } = this.flight;
    return this.margin_db >= PICTURE_DB && !(mishap.picture_lost && this.at_s >= mishap.at_s);
  }

  get control(): boolean {
    return this.margin_db >= CONTROL_DB;
  }

  /** Walking into the open, and not there yet. */
  get walking(): boolean {
    return this.at_s >= this.walked_at && this.at_s < this.walked_at + WALK_S;
  }

  toTheEnd(): Ended {
    while (this.ended === null) this.step();
    return this.ended;
  }

  /** Half a second on. */
  step() {
    if (this.ended) return;
    while (this.todo.length > 0 && this.todo[0]!.at_s <= this.at_s + 1e-9)
      this.act(this.todo.shift()!.act);
    const sheet = this.flight.sheet;
    const [mean_ms, wind_e, wind_n] = this.air();
    const [goal_x, goal_y] = this.goal();
    const { going, inPlace, air_e, air_n } = this.heading(goal_x, goal_y, wind_e, wind_n);
    const rate = clip(
      ((TO_GROUND.has(this.doing) ? 0 : this.target_m) - this.z) / STEP_S,
      -sheet.descent_ms,
      sheet.ascent_ms,
    );
    this.airspeed_ms = hypot(air_e, air_n);
    this.ground_ms = hypot(wind_e + air_e, wind_n + air_n);
    this.x += (wind_e + air_e) * STEP_S;
    this.y += (wind_n + air_n) * STEP_S;
    this.z = Math.max(this.z + rate * STEP_S, 0);
    this.power_w = this.power(
      going ? this.airspeed_ms : Math.min(mean_ms, this.mayFly_ms()),
      rate,
      inPlace,
    );
    this.wh += (this.power_w * STEP_S) / 3600;
    this.at_s += STEP_S;
    this.steps += 1;
    this.arrive(goal_x, goal_y);
    this.link();
    this.harm(rate);
    this.settle();
  }

  private act(act: Act) {
    if (act === "walk") {
      this.walked_at = Math.min(this.walked_at, this.at_s);
      return;
    }
    if (!this.control || this.forced) return;
    if (act === "fast") this.fast = true;
    else if (act === "lower" || act === "climb") this.changeHeight(act === "climb" ? 1 : -1);
    else if (act === "turn_back")
      this.begin(this.flight.sheet.return_mode === "rth" ? "return_home" : "planned");
    else if (act === "by_hand") {
      this.begin("by_hand");
      this.target_m = this.z;
    } else if (act === "return_home") this.begin("return_home");
    else if (act === "wait") this.hold();
    else this.landHere();
  }

  private changeHeight(way: 1 | -1) {
    const was = this.doing;
    if (was === "down") {
      if (way < 0) return;
      this.hold();
    }
    if (was === "return_home" && way < 0) return;
    const from = was === "down" || was === "rise" ? this.z : this.target_m;
    this.target_m = Math.min(
      Math.max(from + way * HEIGHT_CHANGE_M, LOWEST_M),
      this.flight.sheet.max_altitude_m,
    );
  }

  private begin(doing: Doing) {
    this.doing = doing;
    this.landing_s = 0;
    this.follows = false;
    if (UP_FIRST.has(doing)) this.target_m = Math.max(this.z, this.flight.sheet.return_height_m);
  }

  private hold() {
    this.begin("hold");
    this.hold_x = this.x;
    this.hold_y = this.y;
    this.target_m = Math.max(this.z, 2);
  }

  private landHere() {
    this.begin("down");
    this.hold_x = this.x;
    this.hold_y = this.y;
  }

  /** Mean wind [m/s], and wind with its gusts [m/s towards east and north]. */
  private air(): [number, number, number] {
    const { sheet, mishap } = this.flight;
    const [e0, n0, sigma] = windAt(sheet, this.z);
    const share = grown(mishap, this.at_s);
    const factor = 1 + (mishap.wind_factor - 1) * share;
    const turn = (mishap.wind_turn_deg * share * Math.PI) / 180;
    const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
    const [east, north] = [factor * (cos * e0 + sin * n0), factor * (cos * n0 - sin * e0)];
    this.gusts.goOn(this.normalsAt(this.steps), this.airspeed_ms, Math.max(this.z, 1), STEP_S);
    const speed = Math.max(hypot(east, north), 1e-6);
    const along = (factor * sigma * this.gusts.along) / speed;
    const across = (factor * sigma * this.gusts.across) / speed;
    return [speed, east * (1 + along) - north * across, north * (1 + along) + east * across];
  }

  private goal(): [number, number] {
    if (this.doing === "out") return [this.flight.sheet.far_x, this.flight.sheet.far_y];
    if (TO_PILOT.has(this.doing) || this.follows) return deckAt(this.flight.mishap, this.at_s);
    return this.doing === "return_home" ? [0, 0] : [this.hold_x, this.hold_y];
  }

  private mayFly_ms(): number {
    const { modes_ms, outbound_mode, return_mode } = this.flight.sheet;
    if (this.doing === "return_home") return modes_ms.rth!;
    if (this.fast) return modes_ms.fast!;
    if (this.doing === "out") return modes_ms[outbound_mode]!;
    return this.doing === "planned" ? modes_ms[return_mode]! : modes_ms.normal!;
  }

  /** How it moves through the air [m/s east and north]. */
  private heading(goal_x: number, goal_y: number, wind_e: number, wind_n: number) {
    const airspeed = this.mayFly_ms();
    const rising = this.target_m > this.z + 0.5 && UP_FIRST.has(this.doing);
    const stays = rising || (this.lost_s > 0 && STICKS.has(this.doing));
    const going = (STICKS.has(this.doing) || HOMEWARD.has(this.doing)) && !stays;
    const inPlace = rising || IN_PLACE.has(this.doing);
    if (this.z <= DOWN_M && this.doing === "down")
      return { going, inPlace, air_e: -wind_e, air_n: -wind_n };
    const [dx, dy] = stays ? [0, 0] : [goal_x - this.x, goal_y - this.y];
    const far = Math.max(hypot(dx, dy), 1e-9);
    const [to_e, to_n] = [dx / far, dy / far];
    if (going) {
      const along = wind_e * to_e + wind_n * to_n;
      const counter = clip(-(wind_n * to_e - wind_e * to_n), -airspeed, airspeed);
      const most = Math.sqrt(Math.max(airspeed * airspeed - counter * counter, 0));
      const ahead = Math.min(most, Math.max(far / STEP_S - along, 0));
      return {
        going,
        inPlace,
        air_e: ahead * to_e - counter * to_n,
        air_n: ahead * to_n + counter * to_e,
      };
    }
    const back = Math.min(far / COMES_BACK_S, airspeed / 2);
    const [want_e, want_n] = [back * to_e - wind_e, back * to_n - wind_n];
    const can = Math.min(airspeed / Math.max(hypot(want_e, want_n), 1e-9), 1);
    return { going, inPlace, air_e: want_e * can, air_n: want_n * can };
  }

  private power(airspeed_ms: number, rate: number, inPlace: boolean): number {
    const { sheet, mishap } = this.flight;
    const level = inPlace ? sheet.hover_w : cruiseW(sheet, airspeed_ms);
    const drain = 1 + (mishap.drain - 1) * grown(mishap, this.at_s);
    return (level + sheet.lift_w * Math.max(rate, 0)) * drain * (1 + ICE_A_SECOND * this.iced_s);
  }

  private arrive(goal_x: number, goal_y: number) {
    const there = hypot(goal_x - this.x, goal_y - this.y) <= ARRIVED_M;
    if (there && this.doing === "out") {
      this.doing = "station";
      [this.hold_x, this.hold_y] = [goal_x, goal_y];
    } else if (there && HOMEWARD.has(this.doing) && this.z >= this.target_m - 0.5) {
      this.follows = this.doing !== "return_home" || this.follows;
      this.doing = "down";
      [this.hold_x, this.hold_y] = [goal_x, goal_y];
    }
    if (this.at_s < HOVER_CHECK_S) return;
    if (this.doing === "hover_check") this.doing = "rise";
    if (this.doing === "rise" && this.z >= this.target_m - 0.01) this.doing = "out";
  }

  private link() {
    const { sheet, mishap } = this.flight;
    const [deck_x, deck_y] = deckAt(mishap, this.at_s);
    const distance = hypot(this.x - deck_x, this.y - deck_y);
    const slant = Math.max(hypot(distance, this.z - HAND_HEIGHT_M), 1);
    const extra = shadeDb(sheet, distance, this.z) + mishap.noise_db * grown(mishap, this.at_s);
    const open = this.at_s >= this.walked_at + WALK_S;
    this.margin_db = sheet.margin_1m_db - 20 * Math.log10(slant) - (open ? 0 : extra);
    if (this.control) {
      this.lost_s = 0;
      this.acted = false;
      return;
    }
    this.lost_s += STEP_S;
    if (this.lost_s < LOST_AFTER_S || this.acted) return;
    this.acted = true;
    if (this.doing === "return_home" || this.doing === "down") return;
    if (sheet.lost_link === "return") this.begin("return_home");
    else if (sheet.lost_link === "hover") this.hold();
    else this.landHere();
  }

  private harm(rate: number) {
    const { sheet, mishap } = this.flight;
    if (mishap.fog_rise_ms > 0) {
      if (this.z < fogTopM(mishap, this.at_s) && this.z > 2) this.iced_s += STEP_S;
      if (this.iced_s >= ICE_DOWN_S) this.finish("iced");
    }
    if (mishap.bird && this.at_s >= mishap.at_s) {
      const left = hypot(this.x - sheet.far_x, this.y - sheet.far_y) > BIRD_LEAVES_M;
      const slow = this.ground_ms < BIRD_SLOW_MS ? 1 : 1 / 3;
      if (!(rate > 1 || left || this.z < 1)) this.threat_s += slow * STEP_S;
      if (this.threat_s >= BIRD_STRIKES_S) this.finish("struck");
    }
    if (!ON_THE_WAY_UP.has(this.doing))
      for (const stands of sheet.stands)
        if (this.z < stands.top_m && apartM(this.x, this.y, stands) <= ROOM_M) this.finish("hit");
    if (this.charge_pct <= 0) this.finish("empty");
    if (this.at_s >= LONGEST_S) this.finish("gone");
  }

  private settle() {
    if (this.ended) return;
    if (!this.forced && this.charge_pct <= FORCED_PCT && this.z > DOWN_M) {
      this.forced = true;
      if (this.doing !== "down") this.landHere();
    }
    const { sheet, mishap } = this.flight;
    const down = this.doing === "down" && this.z <= DOWN_M;
    const [deck_x, deck_y] = deckAt(mishap, this.at_s);
    const onPad = hypot(this.x - deck_x, this.y - deck_y) <= PAD_M;
    if (down && onPad && padTaken(mishap, this.at_s)) this.finish("hurt");
    this.landing_s = down ? this.landing_s + STEP_S : 0;
    if (this.landing_s < LANDING_S) return;
    if (onPad) this.finish("home");
    else {
      const ground = groundAt(sheet, hypot(this.x, this.y));
      this.finish(ground === "open" ? "away" : ground);
    }
  }

  private finish(end: End) {
    if (this.ended) return;
    const [deck_x, deck_y] = deckAt(this.flight.mishap, this.at_s);
    this.ended = {
      at_s: this.at_s,
      end,
      charge_pct: this.charge_pct,
      from_home_m: hypot(this.x - deck_x, this.y - deck_y),
    };
  }
}
