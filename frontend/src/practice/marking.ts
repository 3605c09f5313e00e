import type { AnswerIn, CaseKey, Marked } from "../api/practice";

/** Marks on the device, where the server is out of reach: as the core gives them, held against its cases. */

const WRONG_FROM = 2;
const TIGHTEST_COST = 1;
const NEAR_POINTS = 5;
const NEAR_M = 5;
const TOO_LOW_COST = 2;
const TOO_HIGH_COST = 0.5;
const SURE_COST = 3;
const EASY_SURE_PCT = 80;
const GOOD_MOST = 1;
const AGAIN_FROM = 5;

export type Marks = Pick<
  Marked,
  | "word_cost"
  | "right"
  | "sure_cost"
  | "tightest_cost"
  | "turn_back_pct"
  | "turn_back_cost"
  | "return_height_m"
  | "return_height_cost"
  | "brier"
  | "cost"
  | "grade"
>;

/** Under the true number it is found too late, over it only charge or light is lost. */
function byFeel(said: number | null | undefined, is: number | null, near: number): number {
  if (said == null || is === null || Math.abs(said - is) <= near) return 0;
  return said < is ? TOO_LOW_COST : TOO_HIGH_COST;
}

/** Mark an answer by what it is marked by. */
export function markBy(key: CaseKey, said: AnswerIn): Marks {
  const word_cost = key.word_costs[said.word]!;
  const right = word_cost < WRONG_FROM;
  const tightest_cost = said.tightest === key.deciding ? 0 : TIGHTEST_COST;
  const turn_back_cost = byFeel(said.turn_back_pct, key.turn_back_pct, NEAR_POINTS);
  const return_height_cost = byFeel(said.return_height_m, key.return_height_m, NEAR_M);
  const brier = (said.sure_pct / 100 - (right ? 1 : 0)) ** 2;
  const sure_cost = right ? 0 : SURE_COST * brier;
  const cost = word_cost + sure_cost + tightest_cost + turn_back_cost + return_height_cost;
  const grade = (() => {
    if (cost >= AGAIN_FROM || (key.verdict === "stay" && said.word === "launch")) return "again";
    if (!right || cost > GOOD_MOST) return "hard";
    return cost === 0 && said.sure_pct >= EASY_SURE_PCT ? "easy" : "good";
  })();
  return {
    word_cost,
    right,
    sure_cost,
    tightest_cost,
    turn_back_pct: key.turn_back_pct,
    turn_back_cost,
    return_height_m: key.return_height_m,
    return_height_cost,
    brier,
    cost,
    grade,
  };
}
