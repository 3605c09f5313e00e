import type { Plan, Result } from "../../../api/client";
import type { Path } from "../edit";

export interface InputProps {
  plan: Plan;
  result: Result | undefined;
  change: (path: Path, value: unknown) => void;
}
