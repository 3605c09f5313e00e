import Box from "@mui/material/Box";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useEffect, useState } from "react";
import { useDevices } from "../../api/site";
import { useUnits } from "../../shell/preferences";
import type { InFlight } from "../../flight/useFlight";
import { QuantityInput } from "../../inputs/QuantityInput";
import { written } from "../../units/units";

const NAMES = ["near", "half", "far"];
/** The aircraft's own word is taken again when it moved so far [m]. */
const MOVED_M = 10;

/** Where the aircraft is: near, half, far in one touch, typed, or as the aircraft itself says. */
export function DistanceChoice({ flight }: { flight: InFlight }) {
  const units = useUnits();
  const card = flight.record.plan.card;
  const [way, setWay] = useState<"chosen" | "typed" | "aircraft">("chosen");
  const says = useDevices().data?.aircraft?.says.distance_m ?? null;
  const { record, setDistance } = flight;
  const rounded = says === null ? null : Math.round(says / MOVED_M) * MOVED_M;
  useEffect(() => {
    if (way === "aircraft" && rounded !== null && rounded !== record.distance_m)
      setDistance(rounded);
  }, [way, rounded, record.distance_m, setDistance]);
  if (!card?.home) return null;
  const chosen = card.distances_m.findIndex((d) => d === record.distance_m);
  return (
    <Box sx={{ mt: 1 }}>
      <ToggleButtonGroup
        exclusive
        fullWidth
        aria-label="Distance"
        value={way === "chosen" ? chosen : way}
        onChange={(_, value: number | "typed" | "aircraft" | null) => {
          if (value === null) return;
          if (typeof value !== "number") return setWay(value);
          setWay("chosen");
          setDistance(card.distances_m[value]!);
        }}
      >
        {card.distances_m.map((d, n) => (
          <ToggleButton key={n} value={n} sx={{ minHeight: 56, lineHeight: 1.15 }}>
            {NAMES[n]}
            <br />
            {written(d, "length", units)}
          </ToggleButton>
        ))}
        <ToggleButton value="typed" sx={{ minHeight: 56 }}>
          enter
        </ToggleButton>
        {says !== null && (
          <ToggleButton value="aircraft" sx={{ minHeight: 56, lineHeight: 1.15 }}>
            live
            <br />
            {written(says, "length", units)}
          </ToggleButton>
        )}
      </ToggleButtonGroup>
      {way === "typed" && (
        <QuantityInput
          label="Distance now"
          quantity="length"
          min={0}
          max={Math.max(record.distance_m * 2, 200)}
          most={20_000}
          value={record.distance_m}
          onChange={setDistance}
        />
      )}
    </Box>
  );
}
