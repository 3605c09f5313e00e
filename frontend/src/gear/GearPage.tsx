import AddIcon from "@mui/icons-material/Add";
import DeleteIcon from "@mui/icons-material/DeleteOutlined";
import EditIcon from "@mui/icons-material/EditOutlined";
import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Paper from "@mui/material/Paper";
import Snackbar from "@mui/material/Snackbar";
import Typography from "@mui/material/Typography";
import { useEffect, useState, type ReactNode } from "react";
import { Link } from "react-router";
import type { Kept, KitItem, Problem, Use } from "../api/client";
import { useKit, useKitActions, usesOfItem } from "../api/kit";
import { InUseDialog } from "../shell/InUseDialog";
import { ProblemNote, Waiting } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { written, type Units } from "../units/units";
import { ItemDialog } from "./ItemDialog";
import { NEW } from "./items";
import { PackRow } from "./PackRow";
import { CHARGER_MODES, DUE, TAKES, WHEN } from "./words";

type Kind = KitItem["kind"];
const SECTIONS: { kind: Kind; title: string; add: string; empty: string }[] = [
  {
    kind: "aircraft",
    title: "Aircraft",
    add: "Add an aircraft",
    empty:
      "No aircraft yet. Add yours from its spec sheet; each field says where to find the number.",
  },
  {
    kind: "pack",
    title: "Batteries",
    add: "Add a battery",
    empty: "No batteries yet. Each has a label: write it on the battery too.",
  },
  {
    kind: "charger",
    title: "Chargers",
    add: "Add a charger",
    empty: "No charger yet. Add one to get a charging schedule.",
  },
  {
    kind: "device",
    title: "Controller and display",
    add: "Add a device",
    empty: "Nothing here yet. What must be charged besides the batteries?",
  },
  { kind: "bank", title: "Power banks", add: "Add a power bank", empty: "None." },
  {
    kind: "own",
    title: "Your own packing-list items",
    add: "Add a line",
    empty: "None. What do you always forget?",
  },
];

/** Aircraft, packs and what charges them: what is due, what is left in them, what to do with them. */
export function GearPage() {
  const kit = useKit();
  const actions = useKitActions();
  const [open, setOpen] = useState<{ kept: Kept | null; item: KitItem } | null>(null);
  const [deleted, setDeleted] = useState<Kept | null>(null);
  const [inUse, setInUse] = useState<{ kept: Kept; uses: Use[] } | null>(null);
  useEffect(() => {
    document.title = "Gear · Lark";
  }, []);
  if (kit.isPending) return <Waiting what="your gear" />;
  if (kit.error)
    return <ProblemNote problem={kit.error as Problem} again={() => void kit.refetch()} />;
  const aircraft = kit.data.filter((k) => k.item.kind === "aircraft");
  const removeNow = (kept: Kept) =>
    void actions.remove.mutateAsync(kept.id).then(
      () => setDeleted(kept),
      () => undefined,
    );
  const remove = (kept: Kept) =>
    void usesOfItem(kept.id).then(
      (uses) => (uses.length > 0 ? setInUse({ kept, uses }) : removeNow(kept)),
      () => removeNow(kept),
    );
  const edit = (kept: Kept) => setOpen({ kept, item: kept.item });

  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 1100 }}>
      <Typography variant="h1">Gear</Typography>
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        Estimated charge in each battery, what to do with it, and maintenance due on your aircraft.
      </Typography>
      {actions.remove.error && <ProblemNote problem={actions.remove.error as Problem} />}
      {SECTIONS.map((section) => {
        const found = kit.data.filter((k) => k.item.kind === section.kind);
        return (
          <Box key={section.kind} component="section" aria-label={section.title} sx={{ mb: 2.5 }}>
            <Box sx={{ display: "flex", alignItems: "center", mb: 0.5 }}>
              <Typography variant="h2" sx={{ flex: 1 }}>
                {section.title}
              </Typography>
              <Button
                size="small"
                className="no-print"
                startIcon={<AddIcon />}
                onClick={() => setOpen({ kept: null, item: NEW[section.kind](aircraft[0]) })}
              >
                {section.add}
              </Button>
            </Box>
            {found.length === 0 && <Typography color="text.secondary">{section.empty}</Typography>}
            <Box component="ul" sx={{ listStyle: "none", m: 0, p: 0 }}>
              {found.map((kept) => (
                <Row key={kept.id} kept={kept} edit={edit} remove={remove}>
                  {kept.item.kind === "aircraft" ? (
                    <AircraftRow kept={kept} />
                  ) : kept.item.kind === "pack" ? (
                    <PackRow kept={kept} aircraft={aircraft} />
                  ) : (
                    <OtherRow item={kept.item} name={kept.name} />
                  )}
                </Row>
              ))}
            </Box>
          </Box>
        );
      })}
      {open && (
        <ItemDialog
          key={open.kept?.id ?? open.item.kind}
          kept={open.kept}
          begin={open.item}
          aircraft={aircraft}
          onClose={() => setOpen(null)}
        />
      )}
      {inUse && (
        <InUseDialog
          name={inUse.kept.name}
          uses={inUse.uses}
          after="They keep its numbers as they are; new sessions can no longer take it."
          remove={() => removeNow(inUse.kept)}
          onClose={() => setInUse(null)}
        />
      )}
      {actions.restore.error && <ProblemNote problem={actions.restore.error as Problem} />}
      <Snackbar
        open={deleted !== null}
        autoHideDuration={12_000}
        onClose={(_, reason) => reason !== "clickaway" && setDeleted(null)}
        message={`${deleted?.name} deleted.`}
        action={
          <Button
            color="inherit"
            onClick={() => {
              actions.restore.mutate(deleted!.id);
              setDeleted(null);
            }}
          >
            Undo
          </Button>
        }
      />
    </Box>
  );
}

function Row({
  kept,
  edit,
  remove,
  children,
}: {
  kept: Kept;
  edit: (kept: Kept) => void;
  remove: (kept: Kept) => void;
  children: ReactNode;
}) {
  return (
    <Paper
      component="li"
      variant="outlined"
      sx={{
        borderRadius: "14px",
        mb: 1,
        p: 1.25,
        display: "flex",
        flexWrap: { xs: "wrap", md: "nowrap" },
        alignItems: "center",
        justifyContent: "flex-end",
        gap: { md: 1 },
      }}
    >
      <Box sx={{ flex: { xs: "1 0 100%", md: 1 }, minWidth: 0 }}>{children}</Box>
      <Box className="no-print" sx={{ display: "flex", flexShrink: 0 }}>
        <IconButton aria-label={`Change ${kept.name}`} onClick={() => edit(kept)}>
          <EditIcon />
        </IconButton>
        <IconButton aria-label={`Take ${kept.name} out`} onClick={() => remove(kept)}>
          <DeleteIcon />
        </IconButton>
      </Box>
    </Paper>
  );
}

function AircraftRow({ kept }: { kept: Kept }) {
  const units = useUnits();
  if (kept.item.kind !== "aircraft") return null;
  const { aircraft } = kept.item;
  return (
    <>
      <Typography variant="h3">{kept.name}</Typography>
      <Typography variant="body2" color="text.secondary">
        {Math.round(aircraft.mass_g)} g · {aircraft.battery_wh} Wh · hovers{" "}
        {aircraft.hover_time_min} min · rated wind {written(aircraft.max_wind_ms, "speed", units)} ·{" "}
        {kept.hours?.toFixed(1)} h flown
      </Typography>
      {(kept.due ?? []).length > 0 && (
        <Alert severity="warning" icon={false} sx={{ mt: 0.5, py: 0, border: 1 }}>
          <Box component="ul" sx={{ m: 0, pl: 2 }}>
            {kept.due!.map((d) => (
              <li key={d.work}>
                <b>{DUE[d.work]}.</b> {d.why}
              </li>
            ))}
          </Box>
        </Alert>
      )}
      <Button component={Link} to={`/gear/${kept.id}/upkeep`} size="small" sx={{ ml: -0.75 }}>
        Maintenance log
      </Button>
    </>
  );
}

function OtherRow({ item, name }: { item: KitItem; name: string }) {
  const units = useUnits();
  return (
    <>
      <Typography variant="h3">{name}</Typography>
      <Typography variant="body2" color="text.secondary">
        {about(item, units)}
      </Typography>
    </>
  );
}

function about(item: KitItem, units: Units): string {
  switch (item.kind) {
    case "charger":
      return `${written(item.power_w, "watts", units)} · ${CHARGER_MODES[item.mode].toLowerCase()}${
        item.mode === "together" ? `, up to ${item.slots}` : ""
      } · for ${TAKES[item.takes].toLowerCase()}`;
    case "device":
      return `${written(item.battery_wh, "wattHours", units)} · at ${Math.round(item.charge_pct)}%`;
    case "bank":
      return `${written(item.energy_wh, "wattHours", units)}, of which ${written(item.energy_wh * 0.85, "wattHours", units)} reach a battery`;
    case "own":
      return `${item.count} for ${WHEN[item.when]}${
        item.days_before != null ? `, at home ${item.days_before} days before` : ""
      }`;
    default:
      return "";
  }
}
