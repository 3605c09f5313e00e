import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Dial } from "../../api/client";
import type { Path } from "../../editing/history";

const IN_THE_PLAN: Partial<Record<Dial["setting"], string>> = {
  rth_altitude_m: "rth_altitude_m",
  max_altitude_m: "max_altitude_m",
  max_distance_m: "max_distance_m",
  lost_link: "lost_link",
};

/** What to dial in, large enough to copy from at arm's length, each with its reason. */
export function SettingsCard({
  card,
  take,
}: {
  card: Dial[];
  take: (path: Path, value: unknown) => void;
}) {
  return (
    <Box component="dl" sx={{ m: 0 }}>
      {card.map((dial) => {
        const key = IN_THE_PLAN[dial.setting];
        const value = dial.setting === "lost_link" ? dial.shown : dial.value;
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
              {dial.shown}
            </Typography>
            <Typography
              component="dd"
              variant="body2"
              color="text.secondary"
              sx={{ m: 0, gridColumn: "1 / -1" }}
            >
              {dial.why}
              {dial.last && <b> Last time: {dial.last}.</b>}
              {dial.planned && ` The plan has ${dial.planned}. `}
              {dial.planned && key && value != null && (
                <Button
                  size="small"
                  sx={{ minHeight: 32, py: 0 }}
                  onClick={() => take(["settings", key], value)}
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
