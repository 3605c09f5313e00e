import Box from "@mui/material/Box";
import ToggleButton from "@mui/material/ToggleButton";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { useKit } from "../../api/kit";
import { Panel } from "../../shell/Panel";
import { withBattery } from "../../gear/battery";
import type { Room } from "../SessionRoom";

/** After a flight of a session: which battery flies next. The one that has flown is as it came down. */
export function NextBattery({ room }: { room: Room }) {
  const kit = useKit();
  const { plan, replace } = room.editor;
  const batteries = (kit.data ?? []).filter(
    (k) =>
      k.item.kind === "pack" &&
      k.pack!.choosable &&
      (k.item.aircraft === null || k.item.aircraft === plan.aircraft.kit),
  );
  if (batteries.length === 0) return null;
  return (
    <Panel
      title="Which battery flies next?"
      hint={`${plan.pack.label ?? "the last one"} is at ${Math.round(plan.pack.charge_pct)}%`}
    >
      <Box role="group" aria-label="Battery" sx={{ display: "flex", flexWrap: "wrap", gap: 1 }}>
        {batteries.map((k) => (
          <ToggleButton
            key={k.id}
            value={k.id}
            selected={k.id === plan.pack.kit}
            sx={{ minHeight: 56, minWidth: 96, textTransform: "none" }}
            onClick={() => replace(withBattery(plan, k))}
          >
            {k.name}: {Math.round(k.pack!.charge_pct)}%
          </ToggleButton>
        ))}
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
        The plan then flies with it, and the flight gets a decision of its own:{" "}
        <Link to={`/sessions/${room.id}/preflight`}>to the preflight</Link>
      </Typography>
    </Panel>
  );
}
