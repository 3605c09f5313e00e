import Box from "@mui/material/Box";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Typography from "@mui/material/Typography";
import type { Outing, Ready } from "../../api/client";
import { ChargeLine } from "../../gear/PackRow";
import { CARE } from "../../gear/words";
import type { PutOuting } from "./props";

/** Which packs come along. What is put aside, or fits another aircraft, cannot be chosen, and says why. */
export function PackChoices({
  ready,
  outing,
  put,
}: {
  ready: Ready;
  outing: Outing;
  put: PutOuting;
}) {
  const chosen = ready.packs.filter((p) => p.chosen).map((p) => p.id);
  const choose = (id: number, come: boolean) => {
    const packs = come ? [...chosen, id] : chosen.filter((p) => p !== id);
    // Flights set by hand on a pack that stays at home have nothing to fly on.
    const flights = outing.flights?.every((f) => packs.includes(f.pack)) ? outing.flights : null;
    put({ packs, flights });
  };
  // What fits another aircraft is no news here.
  const shown = ready.packs.filter((p) => p.fits);
  if (shown.length === 0 && ready.aircraft !== null)
    return <Typography>No battery in your gear fits this aircraft. Add one under Gear.</Typography>;
  return (
    <Box component="ul" aria-label="Batteries" sx={{ listStyle: "none", m: 0, p: 0 }}>
      {shown.map((p) => (
        <Box
          component="li"
          key={p.id}
          sx={{
            display: "grid",
            gridTemplateColumns: "minmax(96px,auto) minmax(0,1fr)",
            gap: 1,
            alignItems: "center",
            borderTop: 1,
            borderColor: "divider",
            py: 0.5,
            "&:first-of-type": { borderTop: 0 },
          }}
        >
          <FormControlLabel
            sx={{ minHeight: 48, mr: 0 }}
            control={
              <Checkbox
                checked={p.chosen}
                disabled={!p.choosable}
                onChange={(e) => choose(p.id, e.target.checked)}
              />
            }
            label={<b>Battery {p.label}</b>}
          />
          <Box sx={{ minWidth: 0 }}>
            {p.choosable && (
              <Box sx={{ display: "flex", alignItems: "center", gap: 1 }}>
                <Typography sx={{ fontWeight: 700, whiteSpace: "nowrap" }}>
                  {Math.round(p.charge_now_pct)}% now
                </Typography>
                <Box sx={{ width: 90 }}>
                  <ChargeLine charge={p.charge_now_pct} />
                </Box>
                <Typography variant="body2" color="text.secondary">
                  health {Math.round(p.health_pct)}%
                </Typography>
              </Box>
            )}
            <Typography variant="body2">
              <b>{CARE[p.advice.care].replace(/^./, (c) => c.toUpperCase())}.</b>{" "}
              {p.advice.sentence} {p.worn}
            </Typography>
          </Box>
        </Box>
      ))}
    </Box>
  );
}
