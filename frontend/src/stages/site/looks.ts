import type { Look, Plan } from "../../api/client";
import { today } from "../../shell/time";

type Seen = Plan["site"]["seen"][number];

/** A plan after an answer to the look round: what was seen counts in it, until it is answered otherwise. */
export function withLook(plan: Plan, look: Pick<Look, "key" | "effect">, answer: Answer): Plan {
  const site = { ...plan.site };
  const yes = answer === "yes";
  if (look.effect === "seen" || look.effect === "bearing") {
    // A draft that an older Lark left behind says nothing of it.
    const others = ((site.seen as Seen[] | undefined) ?? []).filter((key) => key !== look.key);
    site.seen = yes ? [...others, look.key as Seen] : others;
  }
  // That nobody is there is the pilot's word of today, and gone with it.
  if (look.key === "people") site.people_looked_at = answer === "no" ? today() : null;
  if (look.effect === "shelter") site.sheltered = yes;
  if (look.effect === "noise" && yes) site.radio_noise = "urban";
  return { ...plan, site };
}

/** What is said to a question; null: nothing, or taken back. */
export type Answer = "yes" | "no" | null;
