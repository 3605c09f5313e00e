import type { Plan } from "../api/client";
import { useJudging } from "../api/queries";
import { useUnits } from "../frame/preferences";
import { Seal } from "../frame/Seal";

/** The verdict of the plan as it is in this window, on pages that judge nothing else. */
export function JudgedSeal({ plan }: { plan: Plan }) {
  const { result, waiting } = useJudging(plan, useUnits());
  return <Seal plan={plan} result={result} waiting={waiting} />;
}
