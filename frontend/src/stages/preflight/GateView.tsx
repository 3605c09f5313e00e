import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Gate, Plan, Said } from "../../api/client";
import type { Change } from "../../editing/change";
import { usePreferences } from "../../shell/preferences";
import { GateRow } from "./GateRow";

/** In field mode the steps lie where a thumb reaches them, over the stages at the foot of a phone. */
const AT_HAND = {
  position: "sticky",
  bottom: { xs: "calc(52px + env(safe-area-inset-bottom, 0px))", md: 8 },
  zIndex: 2,
  display: "flex",
  gap: 1,
  py: 1,
  bgcolor: "background.paper",
} as const;

/** One gate: its items from the top, arrow keys move, space ticks. A fault stops it. */
export function GateView({
  gate,
  say,
  change,
  next,
  back,
}: {
  gate: Gate;
  say: (answer: Said) => void;
  change: Change<Plan>;
  next?: () => void;
  back?: () => void;
}) {
  const { fieldMode } = usePreferences();
  const move = (event: React.KeyboardEvent<HTMLElement>) => {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const on = document.activeElement as HTMLElement | null;
    if (!step || !on?.matches("[data-tick]")) return;
    event.preventDefault();
    const ticks = [...event.currentTarget.querySelectorAll<HTMLElement>("[data-tick]")];
    ticks[ticks.indexOf(on) + step]?.focus();
  };
  return (
    <Box onKeyDown={move}>
      <Box component="ol" aria-label={gate.name} sx={{ listStyle: "none", m: 0, p: 0 }}>
        {gate.items.map((item) => (
          <GateRow key={item.key} item={item} say={say} change={change} />
        ))}
      </Box>
      {gate.stopped && (
        <Alert severity="error" icon={false} sx={{ border: 1, my: 1 }}>
          This step has a fault. Do what it says and tick the item, or stand down.
        </Alert>
      )}
      {!gate.stopped && gate.open === 0 && (
        <Typography role="status" sx={{ fontWeight: 750, my: 1 }}>
          Step complete.
        </Typography>
      )}
      <Box sx={fieldMode ? AT_HAND : { display: "flex", mt: 1 }}>
        {fieldMode && back && (
          <Button variant="outlined" sx={{ minHeight: 64, flex: 1 }} onClick={back}>
            Back
          </Button>
        )}
        {next && (
          <Button
            variant={gate.open === 0 && !gate.stopped ? "contained" : "outlined"}
            sx={{ minHeight: fieldMode ? 64 : 56, flex: 2 }}
            onClick={next}
          >
            Next step
          </Button>
        )}
      </Box>
    </Box>
  );
}
