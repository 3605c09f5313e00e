import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Observed } from "../api/client";
import { turnTo } from "../sensors/sensing";
import { usePointing } from "../sensors/useSensors";
import { Panel } from "../shell/Panel";
import { bearing } from "../units/units";
import { heightInFists, quarterOf, turnInWords } from "./look";

type Look = NonNullable<Observed["lookout"]>;

const PHASES: Record<Look["phase"], string> = {
  near: "near the take-off, going up",
  outbound: "on its way out",
  station: "at the far point",
  home: "on its way home",
  landing: "coming down to land",
};

/** Where to look, in words that need no compass, and by the device's own one where the observer asks for it. */
export function LookHere({
  look,
  flying,
  where,
  old,
}: {
  look: Look;
  flying: boolean;
  where: string;
  old: boolean;
}) {
  const { bearing_deg, elevation_deg, phase } = look;
  const { pointing, asked, refused, ask } = usePointing();
  const overhead = phase === "near" || phase === "landing";
  return (
    <Box component="section" aria-label="Where to look">
      <Panel title="Where to look" hint={flying ? PHASES[phase] : "once it flies"}>
        <Box sx={{ display: "flex", alignItems: "center", gap: 2, opacity: old ? 0.55 : 1 }}>
          {!overhead && <Arrow bearing_deg={bearing_deg - (pointing?.bearing_deg ?? 0)} />}
          <Box sx={{ minWidth: 0 }}>
            <Typography sx={{ fontSize: "1.9rem", fontWeight: 850, lineHeight: 1.1 }}>
              {overhead
                ? "Over the take-off"
                : pointing
                  ? turnInWords(turnTo(pointing.bearing_deg, bearing_deg))
                  : quarterOf(bearing_deg)}
            </Typography>
            <Typography sx={{ fontSize: "1.25rem" }}>
              {!overhead &&
                `${bearing(bearing_deg)}, ${Math.round(elevation_deg)}° up: ${heightInFists(elevation_deg)}`}
            </Typography>
            <Typography color="text.secondary">{where}</Typography>
          </Box>
        </Box>
        {!asked && !overhead && (
          <Button variant="outlined" sx={{ minHeight: 52, mt: 1 }} onClick={ask}>
            Point this device
          </Button>
        )}
        {asked && !pointing && (
          <Typography role="status" sx={{ mt: 1 }}>
            No compass yet. Hold the phone upright and turn it a little.
          </Typography>
        )}
        {refused && <Typography color="error">{refused}</Typography>}
      </Panel>
    </Box>
  );
}

/** An arrow to a bearing: north up, or against where the device points. */
function Arrow({ bearing_deg }: { bearing_deg: number }) {
  return (
    <svg width="92" height="92" viewBox="0 0 100 100" aria-hidden="true" style={{ flexShrink: 0 }}>
      <circle cx="50" cy="50" r="46" fill="none" stroke="var(--line)" strokeWidth="4" />
      <g
        transform={`rotate(${bearing_deg} 50 50)`}
        stroke="var(--ink)"
        strokeWidth="7"
        strokeLinecap="round"
        strokeLinejoin="round"
        fill="none"
      >
        <line x1="50" y1="78" x2="50" y2="22" />
        <path d="M32 42L50 22L68 42" />
      </g>
    </svg>
  );
}
