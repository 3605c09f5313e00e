import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Said, Gate } from "../../api/client";
import type { Path } from "../../editing/history";
import { GateRow } from "./GateRow";

/** One gate: its items from the top, arrow keys move, space ticks. A fault stops it. */
export function GateView({
  gate,
  say,
  change,
  next,
}: {
  gate: Gate;
  say: (answer: Said) => void;
  change: (path: Path, value: unknown) => void;
  next?: () => void;
}) {
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
      {next && (
        <Button
          variant={gate.open === 0 && !gate.stopped ? "contained" : "outlined"}
          fullWidth
          sx={{ minHeight: 56, mt: 1 }}
          onClick={next}
        >
          Next step
        </Button>
      )}
    </Box>
  );
}
