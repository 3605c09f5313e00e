import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Plan } from "../../api/client";
import { useUnits } from "../../shell/preferences";
import { Group } from "../../inputs/fields";
import { confirmed, howKnown, unconfirmed } from "./evidence";
import { shownAt } from "./fields";

/** The values that decide and that nobody has said, each to be confirmed with one touch or changed below. */
export function Unconfirmed({ plan, replace }: { plan: Plan; replace: (plan: Plan) => void }) {
  const units = useUnits();
  const keys = unconfirmed(plan);
  return (
    <Group title="Nobody has confirmed" summary={`${keys.length} of what decides`} open>
      {keys.length === 0 && (
        <Typography sx={{ py: 1 }}>
          Every figure that decides was typed, read, measured, or comes from a forecast.
        </Typography>
      )}
      <Box component="ul" aria-label="Nobody has confirmed" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {keys.map((key) => {
          const { label, value } = shownAt(plan, key, units);
          return (
            <Box
              key={key}
              component="li"
              sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 52 }}
            >
              <Box sx={{ flex: 1 }}>
                <Typography>{label}</Typography>
                <Typography variant="body2" color="text.secondary">
                  {value}, {howKnown(plan, key)}
                </Typography>
              </Box>
              <Button
                variant="outlined"
                sx={{ minHeight: 48 }}
                aria-label={`Confirm ${label}`}
                onClick={() => replace(confirmed(plan, key, new Date()))}
              >
                Confirm
              </Button>
            </Box>
          );
        })}
      </Box>
      <Typography variant="body2" color="text.secondary">
        Confirm what is so. What is not so, change: switch this off, and type it.
      </Typography>
    </Group>
  );
}
