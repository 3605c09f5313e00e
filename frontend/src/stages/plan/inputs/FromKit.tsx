import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { Kept } from "../../../api/client";
import { useKit } from "../../../api/kit";
import { withBattery } from "../../../gear/battery";
import type { InputProps } from "./props";

type Change = InputProps["change"];

/** The aircraft and the pack out of the kit; a pack that is swollen, wet or retired cannot be taken. */
export function FromKit({ plan, change }: { plan: InputProps["plan"]; change: Change }) {
  const kit = useKit();
  if (!kit.data) return null;
  const aircraft = kit.data.filter((k) => k.item.kind === "aircraft");
  const mine = aircraft.find((k) => k.id === plan.aircraft.kit);
  const packs = kit.data.filter(
    (k) =>
      k.item.kind === "pack" && mine && (k.item.aircraft === null || k.item.aircraft === mine.id),
  );
  if (aircraft.length === 0)
    return (
      <Typography variant="body2" color="text.secondary">
        Add aircraft and batteries under <Link to="/gear">Gear</Link> and you can pick them here.
      </Typography>
    );
  return (
    <>
      <TextField
        select
        fullWidth
        size="small"
        margin="dense"
        label="Aircraft from your gear"
        value={mine?.id ?? ""}
        onChange={(e) => {
          const kept = aircraft.find((k) => k.id === Number(e.target.value));
          if (kept?.item.kind === "aircraft")
            change(["aircraft"], { ...kept.item.aircraft, kit: kept.id });
        }}
      >
        {aircraft.map((k) => (
          <MenuItem key={k.id} value={k.id}>
            {k.name}
          </MenuItem>
        ))}
      </TextField>
      {packs.length > 0 && (
        <TextField
          select
          fullWidth
          size="small"
          margin="dense"
          label="Battery from your gear"
          value={packs.find((k) => k.id === plan.pack.kit)?.id ?? ""}
          helperText="Uses its estimated charge right now."
          onChange={(e) => {
            const kept = packs.find((k) => k.id === Number(e.target.value));
            if (kept) change([], withBattery(plan, kept));
          }}
        >
          {packs.map((k) => (
            <MenuItem key={k.id} value={k.id} disabled={!k.pack!.choosable}>
              {k.name}, {k.pack!.choosable ? `about ${Math.round(k.pack!.charge_pct)}%` : state(k)}
            </MenuItem>
          ))}
        </TextField>
      )}
    </>
  );
}

function state(kept: Kept): string {
  return kept.item.kind === "pack" ? kept.item.state : "";
}
