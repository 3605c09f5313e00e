import { useParams } from "react-router";
import type { Plan } from "../api/client";
import { useJudging } from "../api/queries";
import { useUnits } from "../shell/preferences";
import { FoldedSeal, Seal } from "../shell/Seal";
import { useWide } from "../shell/useWide";
import { useOpenStages } from "../outbox/open";

/** The verdict of the plan as it is in this window, on pages that judge nothing else. */
export function JudgedSeal({ plan }: { plan: Plan }) {
  const units = useUnits();
  const { result, waiting } = useJudging(plan, units);
  const open = useOpenStages(Number(useParams().sessionId), plan, units);
  const Shown = useWide() ? Seal : FoldedSeal;
  return <Shown plan={plan} result={result} waiting={waiting} open={open} />;
}
