import Button from "@mui/material/Button";
import Dialog from "./Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { SPEED_NAMES, type Units } from "../units/units";
import { UNITS_STAY, useAway } from "../along/away";
import { usePreferences } from "./preferences";

const CHOICES: { [K in keyof Units]: { title: string; names: Record<Units[K], string> } } = {
  speed: { title: "Speed", names: SPEED_NAMES },
  length: { title: "Distance and height", names: { m: "m", ft: "ft" } },
  temperature: { title: "Temperature", names: { c: "°C", f: "°F" } },
};

export function UnitsDialog({ onClose }: { onClose: () => void }) {
  const { units, setUnits } = usePreferences();
  const away = useAway();
  return (
    <Dialog open onClose={onClose} aria-labelledby="units-title">
      <DialogTitle id="units-title">Units</DialogTitle>
      <DialogContent>
        {away && <Typography>{UNITS_STAY}</Typography>}
        {(Object.keys(CHOICES) as (keyof Units)[]).map((key) => (
          <div key={key}>
            <Typography sx={{ mt: 1 }}>{CHOICES[key].title}</Typography>
            <ToggleButtonGroup
              exclusive
              disabled={away !== null}
              aria-label={CHOICES[key].title}
              value={units[key]}
              onChange={(_, next: string | null) =>
                next && setUnits({ ...units, [key]: next } as Units)
              }
            >
              {Object.entries(CHOICES[key].names).map(([value, name]) => (
                <ToggleButton
                  key={value}
                  value={value}
                  sx={{ minWidth: 64, minHeight: 48, textTransform: "none" }}
                >
                  {name}
                </ToggleButton>
              ))}
            </ToggleButtonGroup>
          </div>
        ))}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Done</Button>
      </DialogActions>
    </Dialog>
  );
}
