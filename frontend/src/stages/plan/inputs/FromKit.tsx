import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { Kept, Plan } from "../../../api/client";
import { useKit } from "../../../api/kit";
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
        Aircraft and packs that you add under <Link to="/kit">Kit</Link> can be taken here.
      </Typography>
    );
  return (
    <>
      <TextField
        select
        fullWidth
        size="small"
        margin="dense"
        label="Aircraft from your kit"
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
          label="Pack from your kit"
          value={packs.find((k) => k.id === plan.pack.kit)?.id ?? ""}
          helperText="Taken with its charge as estimated now."
          onChange={(e) => {
            const kept = packs.find((k) => k.id === Number(e.target.value));
            if (kept) change(["pack"], packOf(kept, plan));
          }}
        >
          {packs.map((k) => (
            <MenuItem key={k.id} value={k.id} disabled={!k.pack!.choosable}>
              {k.name}, {k.pack!.choosable ? `about ${Math.round(k.pack!.charge_pct)} %` : state(k)}
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

/** A pack of the kit in a plan. One of another size than the aircraft's own is more or less of it: that is its health. */
export function packOf(kept: Kept, plan: Plan): Plan["pack"] {
  if (kept.item.kind !== "pack") return plan.pack;
  const health = (kept.item.health_pct * kept.pack!.energy_wh) / plan.aircraft.battery_wh;
  return {
    ...plan.pack,
    label: kept.name,
    kit: kept.id,
    temperature_c: null,
    charge_pct: Math.round(kept.pack!.charge_pct),
    health_pct: Math.min(110, Math.max(1, Math.round(health))),
  };
}
