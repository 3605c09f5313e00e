import type { Plan, Result } from "../../../api/client";
import type { Path } from "../../../editing/history";

export interface InputProps {
  plan: Plan;
  result: Result | undefined;
  change: (path: Path, value: unknown) => void;
}
