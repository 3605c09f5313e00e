import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { Kept, KitItem } from "../api/client";
import { since } from "../shell/time";
import { useNow } from "../shell/useNow";
import { Choice } from "../inputs/fields";
import { OptionalQuantityInput, QuantityInput } from "../inputs/QuantityInput";
import type { Change } from "../editing/change";
import { NameField, type ItemOf } from "./fields";
import { chargeOf } from "./items";
import { CHEMISTRIES, STATES } from "./words";

/** A pack's numbers; a new state or charge is as of now. */
export function PackFields({
  item,
  change,
  aircraft,
  setItem,
}: {
  item: ItemOf<"pack">;
  change: Change<ItemOf<"pack">>;
  aircraft: Kept[];
  setItem: (item: KitItem) => void;
}) {
  const now = useNow();
  const charged = (charge_pct: number, state = item.state) =>
    setItem({ ...item, state, charge_pct, charged_at: new Date().toISOString() });
  return (
    <>
      <NameField
        label="Label"
        value={item.label}
        max={60}
        help="What is written on the battery."
        onChange={(v) => change(["label"], v)}
      />
      <TextField
        select
        fullWidth
        size="small"
        margin="dense"
        label="Fits"
        value={item.aircraft ?? ""}
        onChange={(e) =>
          change(["aircraft"], e.target.value === "" ? null : Number(e.target.value))
        }
      >
        <MenuItem value="">any aircraft</MenuItem>
        {aircraft.map((a) => (
          <MenuItem key={a.id} value={a.id}>
            {a.name}
          </MenuItem>
        ))}
      </TextField>
      <Choice
        label="State"
        value={item.state}
        options={STATES}
        onChange={(state) => charged(chargeOf(state) ?? item.charge_pct, state)}
      />
      {["swollen", "wet", "retired"].includes(item.state) ? (
        <Typography variant="body2" color="error">
          This battery can no longer be chosen for a session.
        </Typography>
      ) : (
        <>
          <QuantityInput
            label="Charge"
            hint={item.charged_at ? since(new Date(item.charged_at), now) : "age not known"}
            quantity="percent"
            min={0}
            max={100}
            value={item.charge_pct}
            onChange={(v) => charged(v, v >= 99 ? "full" : v > 45 && v < 60 ? "storage" : "partly")}
          />
          <Button size="small" variant="outlined" onClick={() => charged(100, "full")}>
            Fully charged just now
          </Button>
        </>
      )}
      <Choice
        label="Chemistry"
        value={item.chemistry}
        options={CHEMISTRIES}
        onChange={(v) => change(["chemistry"], v)}
      />
      <QuantityInput
        label="Cells"
        hint="“2S” is two"
        quantity="count"
        slider={false}
        min={1}
        max={14}
        value={item.cells}
        onChange={(v) => change(["cells"], Math.round(v))}
      />
      <QuantityInput
        label="Capacity, mAh"
        hint="printed on it"
        quantity="count"
        slider={false}
        min={100}
        max={60_000}
        value={item.capacity_mah}
        onChange={(v) => change(["capacity_mah"], v)}
      />
      <QuantityInput
        label="Health"
        hint="as the aircraft or charger shows it"
        quantity="percent"
        min={50}
        max={100}
        least={1}
        most={110}
        value={item.health_pct}
        onChange={(v) => change(["health_pct"], v)}
      />
      <OptionalQuantityInput
        label="Health by its own test"
        hint="a capacity test, or what the battery itself tells"
        quantity="percent"
        unknown="not tested"
        first={100}
        min={50}
        max={100}
        most={110}
        value={item.tested_pct}
        onChange={(v) => change(["tested_pct"], v)}
      />
      <QuantityInput
        label="Cycles"
        quantity="count"
        slider={false}
        min={0}
        max={5000}
        value={item.cycles}
        onChange={(v) => change(["cycles"], Math.round(v))}
      />
      <QuantityInput
        label="Storage temperature"
        hint="where it is kept"
        quantity="temperature"
        slider={false}
        min={-60}
        max={60}
        value={item.storage_c}
        onChange={(v) => change(["storage_c"], v)}
      />
      <TextField
        fullWidth
        size="small"
        margin="dense"
        type="date"
        label="Bought"
        value={item.bought ?? ""}
        onChange={(e) => change(["bought"], e.target.value || null)}
        slotProps={{ inputLabel: { shrink: true } }}
      />
      <TextField
        fullWidth
        multiline
        size="small"
        margin="dense"
        label="Note"
        value={item.note}
        onChange={(e) => change(["note"], e.target.value)}
        slotProps={{ htmlInput: { maxLength: 2000 } }}
      />
    </>
  );
}
