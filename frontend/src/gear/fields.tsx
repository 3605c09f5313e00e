import TextField from "@mui/material/TextField";
import type { KitItem } from "../api/client";
import type { Change } from "../editing/change";
import { Choice } from "../inputs/fields";
import { OptionalQuantityInput, QuantityInput } from "../inputs/QuantityInput";
import { CHARGER_MODES, GROUPS, TAKES, WHEN } from "./words";

export type ItemOf<K extends KitItem["kind"]> = Extract<KitItem, { kind: K }>;

/** What an item is called; typed at once, so that the button knows that there is a name. */
export function NameField({
  label = "Name",
  value,
  onChange,
  help,
  max = 120,
}: {
  label?: string;
  value: string;
  onChange: (value: string) => void;
  help?: string;
  max?: number;
}) {
  return (
    <TextField
      autoFocus
      fullWidth
      required
      size="small"
      margin="dense"
      label={label}
      value={value}
      helperText={help}
      slotProps={{ htmlInput: { maxLength: max } }}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}

const energy = { quantity: "wattHours", slider: false, min: 0.5, max: 3000 } as const;

export function ChargerFields({
  item,
  change,
}: {
  item: ItemOf<"charger">;
  change: Change<ItemOf<"charger">>;
}) {
  return (
    <>
      <NameField value={item.name} onChange={(v) => change(["name"], v)} />
      <QuantityInput
        label="Power"
        hint="printed on it, “output”"
        quantity="watts"
        slider={false}
        min={1}
        max={2000}
        value={item.power_w}
        onChange={(v) => change(["power_w"], v)}
      />
      <Choice
        label="Charges"
        value={item.mode}
        options={CHARGER_MODES}
        onChange={(v) => change(["mode"], v)}
      />
      {item.mode === "together" && (
        <QuantityInput
          label="At once, up to"
          quantity="count"
          slider={false}
          min={1}
          max={12}
          value={item.slots}
          onChange={(v) => change(["slots"], Math.round(v))}
        />
      )}
      <Choice
        label="For"
        value={item.takes}
        options={TAKES}
        onChange={(v) => change(["takes"], v)}
      />
    </>
  );
}

export function DeviceFields({
  item,
  change,
}: {
  item: ItemOf<"device">;
  change: Change<ItemOf<"device">>;
}) {
  return (
    <>
      <NameField value={item.name} onChange={(v) => change(["name"], v)} />
      <QuantityInput
        label="Battery"
        hint="volts × amp-hours"
        {...energy}
        value={item.battery_wh}
        onChange={(v) => change(["battery_wh"], v)}
      />
      <QuantityInput
        label="Charge now"
        quantity="percent"
        min={0}
        max={100}
        value={item.charge_pct}
        onChange={(v) => change(["charge_pct"], v)}
      />
    </>
  );
}

export function BankFields({
  item,
  change,
}: {
  item: ItemOf<"bank">;
  change: Change<ItemOf<"bank">>;
}) {
  return (
    <>
      <NameField value={item.name} onChange={(v) => change(["name"], v)} />
      <QuantityInput
        label="Energy"
        hint="printed on it in Wh"
        {...energy}
        value={item.energy_wh}
        onChange={(v) => change(["energy_wh"], v)}
      />
      <OptionalQuantityInput
        label="Greatest voltage"
        hint="printed beside its output, as “20 V / 3 A”"
        quantity="voltage"
        unknown="not known"
        first={5}
        min={3}
        max={30}
        most={60}
        value={item.volts}
        onChange={(v) => change(["volts"], v)}
      />
      <OptionalQuantityInput
        label="Current at that voltage"
        hint="the amps beside it"
        quantity="current"
        unknown="not known"
        first={2}
        min={0.5}
        max={10}
        most={20}
        value={item.amps}
        onChange={(v) => change(["amps"], v)}
      />
    </>
  );
}

export function OwnFields({
  item,
  change,
  setItem,
}: {
  item: ItemOf<"own">;
  change: Change<ItemOf<"own">>;
  setItem: (item: KitItem) => void;
}) {
  return (
    <>
      <NameField label="What" value={item.name} onChange={(v) => change(["name"], v)} />
      <QuantityInput
        label="How many"
        quantity="count"
        slider={false}
        min={1}
        max={50}
        value={item.count}
        onChange={(v) => change(["count"], Math.round(v))}
      />
      <Choice label="For" value={item.when} options={WHEN} onChange={(v) => change(["when"], v)} />
      <Choice
        label="Where it belongs"
        value={item.group}
        options={GROUPS}
        onChange={(group) =>
          setItem({ ...item, group, days_before: group === "at_home" ? 1 : null })
        }
      />
      {item.days_before != null && (
        <QuantityInput
          label="Days before the session"
          quantity="count"
          slider={false}
          min={0}
          max={60}
          value={item.days_before}
          onChange={(v) => change(["days_before"], Math.round(v))}
        />
      )}
    </>
  );
}
