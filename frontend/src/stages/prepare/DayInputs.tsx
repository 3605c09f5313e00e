import Box from "@mui/material/Box";
import type { Outing } from "../../api/client";
import { Group, Toggle } from "../../inputs/fields";
import { QuantityInput } from "../../inputs/QuantityInput";
import type { PutOuting, SetOuting } from "./props";

const TIMES = [
  { key: "travel_min", label: "Travel time", max: 240, most: 1440 },
  { key: "setup_min", label: "Setting up on site", max: 60, most: 1440 },
  { key: "bag_min", label: "Packing the bag", max: 60, most: 1440 },
  { key: "on_site_min", label: "Take-off to last landing", max: 240, most: 720, least: 5 },
  { key: "changeover_min", label: "Between two flights", max: 20, most: 120 },
] as const;

/** How long things take, and what kind of a session it is. */
export function DayInputs({
  outing,
  set,
  put,
}: {
  outing: Outing;
  set: SetOuting;
  put: PutOuting;
}) {
  return (
    <Box className="no-print" sx={{ mt: 1, mx: -0.5 }}>
      <Group title="How long things take" summary={`${Math.round(outing.travel_min)} min there`}>
        {TIMES.map(({ key, label, max, most, ...more }) => (
          <QuantityInput
            key={key}
            label={label}
            quantity="minutes"
            min={"least" in more ? more.least : 0}
            max={max}
            most={most}
            value={outing[key]}
            onChange={(v) => set(key, v)}
          />
        ))}
        <Toggle
          label="Includes a risky shot"
          value={outing.risky}
          onChange={(risky) => put({ risky })}
        />
        <Toggle
          label="First flights"
          value={outing.first_flights}
          onChange={(first_flights) => put({ first_flights })}
        />
      </Group>
    </Box>
  );
}
