import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { Link } from "react-router";
import { useCompared } from "../../api/forecasts";
import type { Plan, Verdict } from "../../api/client";
import { useUnits } from "../../shell/preferences";
import { clock } from "../../shell/time";

/** What was typed may fly while no forecast lets it: then the plan says so beside its verdict. */
export function StricterForecasts({ plan, verdict }: { plan: Plan; verdict: Verdict }) {
  const units = useUnits();
  const fresh = (useCompared(plan, units).data?.said ?? []).filter((said) => said.fresh);
  const against = fresh.filter((said) => said.verdict === "stay");
  if (verdict === "stay" || against.length === 0 || against.length < fresh.length) return null;
  const reasons = [...new Set(against.map((said) => said.tightest.label.toLowerCase()))];
  return (
    <Alert
      severity="warning"
      sx={{ mx: { xs: 1, md: 0 }, mb: 1 }}
      action={
        <Button color="inherit" component={Link} to="?view=when" replace>
          Compare
        </Button>
      }
    >
      {against.length === 1
        ? `The fresh forecast for ${clock(plan.takeoff_at)} says Don’t launch`
        : `All ${against.length} fresh forecasts for ${clock(plan.takeoff_at)} say Don’t launch`}
      : {reasons.join(", ")}. This verdict rests on the weather as it stands in the plan.
    </Alert>
  );
}
