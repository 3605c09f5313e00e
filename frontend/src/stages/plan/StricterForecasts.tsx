import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { Link } from "react-router";
import { useCompared } from "../../api/forecasts";
import type { Plan } from "../../api/client";
import { useUnits } from "../../shell/preferences";
import { clock } from "../../shell/time";

/** What was typed may fly while no forecast lets it: then the plan says so beside its verdict. */
export function StricterForecasts({ plan }: { plan: Plan }) {
  const units = useUnits();
  const found = useCompared(plan, units).data;
  const count = found?.said.filter((said) => said.fresh).length ?? 0;
  if (!found || found.against.length === 0) return null;
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
      {count === 1
        ? `The fresh forecast for ${clock(plan.takeoff_at)} says Don’t launch`
        : `All ${count} fresh forecasts for ${clock(plan.takeoff_at)} say Don’t launch`}
      : {found.against.join(", ").toLowerCase()}. This verdict rests on the weather as it stands in
      the plan.
    </Alert>
  );
}
