import Button from "@mui/material/Button";
import Dialog from "../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { useState } from "react";
import type { Kept, KitItem, Problem } from "../api/client";
import { useKitActions } from "../api/kit";
import { setAt, type Path } from "../editing/history";
import { ProblemNote } from "../shell/notes";
import { BankFields, ChargerFields, DeviceFields, OwnFields } from "./fields";
import { PackFields } from "./PackFields";
import { SheetFields } from "./SheetFields";

const WHAT: Record<KitItem["kind"], string> = {
  aircraft: "aircraft",
  pack: "pack",
  charger: "charger",
  device: "device",
  bank: "power bank",
  own: "line of your own",
};

export function nameOf(item: KitItem): string {
  return item.kind === "aircraft"
    ? item.aircraft.name
    : item.kind === "pack"
      ? item.label
      : item.name;
}

/** One item of the kit, new or changed. */
export function ItemDialog({
  kept,
  begin,
  aircraft,
  onClose,
}: {
  kept: Kept | null;
  begin: KitItem;
  aircraft: Kept[];
  onClose: () => void;
}) {
  const actions = useKitActions();
  const [item, setItem] = useState(begin);
  const change = (path: Path, value: unknown) => setItem((now) => setAt(now, path, value));
  const busy = actions.add.isPending || actions.save.isPending;
  const problem = (actions.add.error ?? actions.save.error) as Problem | null;
  const save = () =>
    kept
      ? actions.save.mutate({ kept, changed: item }, { onSuccess: onClose })
      : actions.add.mutate(item, { onSuccess: onClose });
  const named = nameOf(item).trim() !== "";
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="kit-item">
      <DialogTitle id="kit-item">
        {kept ? `${kept.name}: change` : `A new ${WHAT[item.kind]}`}
      </DialogTitle>
      <DialogContent>
        {item.kind === "aircraft" && (
          <SheetFields item={item} change={change} changeNamed={change} fresh={!kept} />
        )}
        {item.kind === "pack" && (
          <PackFields item={item} change={change} aircraft={aircraft} setItem={setItem} />
        )}
        {item.kind === "charger" && <ChargerFields item={item} change={change} />}
        {item.kind === "device" && <DeviceFields item={item} change={change} />}
        {item.kind === "bank" && <BankFields item={item} change={change} />}
        {item.kind === "own" && <OwnFields item={item} change={change} setItem={setItem} />}
        {problem && <ProblemNote problem={problem} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button variant="contained" onClick={save} disabled={busy || !named}>
          {kept ? "Save" : "Add to the kit"}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
