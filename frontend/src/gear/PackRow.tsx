import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Kept } from "../api/client";
import { day } from "../shell/time";
import { CARE, STATES } from "./words";

/** A pack: what is left in it by now, drawn from empty to full, and what to do with it. */
export function PackRow({ kept, aircraft }: { kept: Kept; aircraft: Kept[] }) {
  if (kept.item.kind !== "pack" || !kept.pack) return null;
  const { item, pack } = kept;
  const fits = aircraft.find((a) => a.id === item.aircraft)?.name ?? "any aircraft";
  const parts = [
    `for ${fits}`,
    `${item.cells} cells, ${Math.round(item.capacity_mah)} mAh, ${pack.energy_wh.toFixed(1)} Wh`,
    `health ${Math.round(item.health_pct)}%`,
    `${item.cycles} cycles`,
    item.bought && `bought ${day(`${item.bought}T00:00Z`).slice(4)}`,
  ].filter(Boolean);
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { sm: "150px minmax(0,1fr)" }, gap: 1.5 }}>
      <Box>
        <Typography variant="h3" component="h3">
          Battery {kept.name}
        </Typography>
        {pack.choosable ? (
          <>
            <Typography sx={{ fontSize: "1.5rem", fontWeight: 750, lineHeight: 1.2 }}>
              {Math.round(pack.charge_pct)}%
            </Typography>
            <ChargeLine charge={pack.charge_pct} />
            <Typography variant="body2" color="text.secondary">
              estimated now
            </Typography>
          </>
        ) : (
          <Typography sx={{ fontWeight: 750, color: "var(--stay)" }}>
            {STATES[item.state]}
          </Typography>
        )}
      </Box>
      <Box sx={{ minWidth: 0 }}>
        <Typography variant="body2" color="text.secondary">
          {parts.join(" · ")}
        </Typography>
        <AgeLine health={item.health_pct} cycles={item.cycles} pack={pack} />
        <Typography>
          <b>{CARE[pack.advice.care].replace(/^./, (c) => c.toUpperCase())}.</b>{" "}
          {pack.advice.sentence}
        </Typography>
        {pack.worn && <Typography variant="body2">{pack.worn}</Typography>}
        {item.note && (
          <Typography variant="body2" color="text.secondary">
            {item.note}
          </Typography>
        )}
      </Box>
    </Box>
  );
}

/** How a battery ages: cycles along, health up, and the corner beyond which it is old. */
function AgeLine({
  health,
  cycles,
  pack: { worn_below_pct, old_from_cycles },
}: {
  health: number;
  cycles: number;
  pack: NonNullable<Kept["pack"]>;
}) {
  const x = (c: number) => 2 + 116 * Math.min(c / (1.5 * old_from_cycles), 1);
  const y = (h: number) => 2 + 24 * Math.min((100 - h) / 40, 1);
  return (
    <svg
      width="120"
      height="28"
      role="img"
      aria-label={`Health ${Math.round(health)}% after ${cycles} cycles; old under ${worn_below_pct}% or from ${old_from_cycles} cycles`}
      style={{ display: "block", margin: "4px 0" }}
    >
      <rect x="0" y="0" width="120" height="28" rx="4" fill="var(--care)" fillOpacity="0.28" />
      <rect
        x="0"
        y="0"
        width={x(old_from_cycles)}
        height={y(worn_below_pct)}
        rx="4"
        fill="var(--land)"
      />
      <circle
        cx={x(cycles)}
        cy={y(health)}
        r="4"
        fill="var(--ink)"
        stroke="var(--card)"
        strokeWidth="1.5"
      />
    </svg>
  );
}

/** Charge on a line from empty to full, with the storage band marked. */
export function ChargeLine({ charge }: { charge: number }) {
  return (
    <svg
      width="100%"
      height="14"
      viewBox="0 0 100 14"
      preserveAspectRatio="none"
      aria-hidden="true"
      style={{ display: "block", maxWidth: 150 }}
    >
      <rect x="0" y="4" width="100" height="6" fill="var(--line)" />
      <rect x="0" y="4" width={charge} height="6" fill="var(--ink)" />
      <line
        x1="50"
        x2="50"
        y1="0"
        y2="14"
        stroke="var(--care)"
        strokeWidth="2"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
