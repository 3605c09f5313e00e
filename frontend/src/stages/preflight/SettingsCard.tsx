import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Dial, Plan } from "../../api/client";
import type { Change } from "../../editing/change";
import { LOST_LINK } from "../plan/names";

type Put = (change: Change<Plan>, dial: Dial) => void;

/** How a line is taken into the plan, where the plan has it. */
const TAKEN: Partial<Record<Dial["setting"], Put>> = {
  rth_altitude_m: (change, { value }) =>
    value !== null && change(["settings", "rth_altitude_m"], value),
  max_altitude_m: (change, { value }) =>
    value !== null && change(["settings", "max_altitude_m"], value),
  max_distance_m: (change, { value }) => change(["settings", "max_distance_m"], value),
  lost_link: (change, { shown }) => isLostLink(shown) && change(["settings", "lost_link"], shown),
};

const isLostLink = (word: string): word is keyof typeof LOST_LINK => word in LOST_LINK;
const named = (word: string) => (isLostLink(word) ? LOST_LINK[word] : word);

/** What to dial in, large enough to copy from at arm's length, each with its reason. */
export function SettingsCard({ card, change }: { card: Dial[]; change: Change<Plan> }) {
  return (
    <Box component="dl" sx={{ m: 0 }}>
      {card.map((dial) => {
        const take = TAKEN[dial.setting];
        return (
          <Box
            key={dial.label}
            sx={{
              display: "grid",
              gridTemplateColumns: "minmax(0,1fr) auto",
              columnGap: 1.5,
              borderTop: 1,
              borderColor: "divider",
              py: 0.75,
              "&:first-of-type": { borderTop: 0 },
            }}
          >
            <Typography component="dt" sx={{ fontWeight: 650, alignSelf: "center" }}>
              {dial.label}
            </Typography>
            <Typography
              component="dd"
              sx={{
                m: 0,
                fontSize: "1.7rem",
                fontWeight: 800,
                textAlign: "right",
                lineHeight: 1.15,
              }}
            >
              {named(dial.shown)}
            </Typography>
            <Typography
              component="dd"
              variant="body2"
              color="text.secondary"
              sx={{ m: 0, gridColumn: "1 / -1" }}
            >
              {dial.why}
              {dial.last && <b> Last time: {named(dial.last)}.</b>}
              {dial.planned && ` The plan has ${named(dial.planned)}. `}
              {dial.planned && take && (dial.value !== null || isLostLink(dial.shown)) && (
                <Button
                  size="small"
                  sx={{ minHeight: 32, py: 0 }}
                  onClick={() => take(change, dial)}
                >
                  Use in plan
                </Button>
              )}
            </Typography>
          </Box>
        );
      })}
    </Box>
  );
}
