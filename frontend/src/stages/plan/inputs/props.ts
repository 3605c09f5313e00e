import type { Plan, Result } from "../../../api/client";
import type { Change } from "../../../editing/change";

export interface InputProps {
  plan: Plan;
  result: Result | undefined;
  change: Change<Plan>;
}
