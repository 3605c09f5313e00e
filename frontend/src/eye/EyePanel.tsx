import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { useEye } from "../api/eye";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { ago } from "../shell/time";
import { useNow } from "../shell/useNow";
import { written } from "../units/units";
import { useSendingLooks } from "./useSendingLooks";

/** The way to the eye, and what it found last. */
export function EyePanel() {
  const room = useEye();
  useSendingLooks();
  const units = useUnits();
  const now = useNow();
  const latest = room.data?.looks[0];
  return (
    <Panel title="The eye" hint={latest && ago(new Date(latest.looked_at), now)}>
      <Typography>
        Which way does it point?{" "}
        {latest
          ? `Three in four right at ${written(latest.seen_m, "length", units)}, for ${latest.aircraft}.`
          : "How far away you can still tell, in under five minutes."}
      </Typography>
      <Button component={Link} to="/practice/eye" variant="outlined" sx={{ minHeight: 48, mt: 1 }}>
        {latest ? "Look again" : "Take a look"}
      </Button>
    </Panel>
  );
}
