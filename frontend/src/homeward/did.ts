import { LONGEST_S, type Acts } from "./flight";
import { ACTS } from "./review";
import type { Act } from "./tables";

/** What was done on a flight, as a part of its address: anybody who has Lark can look at it. */

const NOTHING = "nothing";
const MOST = 200;

export const didWritten = (acts: Acts) =>
  acts.length === 0 ? NOTHING : acts.map(({ at_s, act }) => `${at_s}-${act}`).join("..");

/** null: nothing of the kind. */
export function didRead(text: string | null): Acts | null {
  if (text === null || text === "") return null;
  if (text === NOTHING) return [];
  const found = text.split("..").map((part) => {
    const [at, act] = part.split("-", 2) as [string, string | undefined];
    return { at_s: Number(at), act: act as Act };
  });
  const fine = found.every(
    ({ at_s, act }) => at_s >= 0 && at_s <= LONGEST_S && (ACTS as readonly string[]).includes(act),
  );
  return fine && found.length <= MOST ? found : null;
}
