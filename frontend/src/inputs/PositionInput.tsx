import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { destination } from "../map/local";
import { FileButton } from "./FileButton";
import { positionOfPhoto } from "./photo";
import { readPosition, writtenPosition, type Position } from "./position";

/** Somewhere that is known, to count a bearing and a distance from. */
export interface Known extends Position {
  name: string;
}

interface Polar {
  /** Which of the known places it is counted from. */
  from: number;
  bearing: string;
  metres: string;
}

/** A number of 0 or more as it is typed; null: it is none. */
const decimal = (typed: string): number | null => {
  const value = typed.trim() === "" ? NaN : Number(typed.replace(",", "."));
  return Number.isFinite(value) && value >= 0 ? value : null;
};

/** A position, pasted in any common form, or by bearing and distance from a place that is known. */
export function PositionInput({
  text,
  onChange,
  known = [],
  fault,
}: {
  text: string;
  onChange: (text: string) => void;
  known?: Known[];
  fault?: string | null;
}) {
  const [polar, setPolar] = useState<Polar | null>(null);
  const [silent, setSilent] = useState(false);
  const found = readPosition(text);
  const unread = text.trim() !== "" && !found;
  const count = (next: Polar) => {
    setPolar(next);
    const origin = known[next.from];
    const bearing = decimal(next.bearing);
    const metres = decimal(next.metres);
    if (!origin || bearing === null || metres === null) return;
    const at = destination({ lat: origin.latitude, lon: origin.longitude }, bearing, metres);
    onChange(`${at.lat.toFixed(6)}, ${at.lon.toFixed(6)}`);
  };
  const fromPhoto = async (file: File) => {
    const at = await positionOfPhoto(file);
    setSilent(at === null);
    if (at) onChange(`${at.latitude.toFixed(6)}, ${at.longitude.toFixed(6)}`);
  };
  return (
    <>
      <TextField
        fullWidth
        margin="dense"
        label="Position"
        placeholder="58.62, 25.08"
        value={text}
        error={unread || Boolean(fault)}
        helperText={
          found
            ? writtenPosition(found)
            : unread
              ? "Not read yet: latitude and longitude, such as 58.62, 25.08 or 58°37'12\"N 25°04'48\"E."
              : (fault ?? "Paste latitude and longitude as you have them.")
        }
        onChange={(e) => onChange(e.target.value)}
        slotProps={{ htmlInput: { maxLength: 120 } }}
      />
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 0.5 }}>
        {known.length > 0 && !polar && (
          <Button size="small" onClick={() => setPolar({ from: 0, bearing: "", metres: "" })}>
            By bearing and distance
          </Button>
        )}
        <FileButton
          size="small"
          words="From a photo"
          accept="image/jpeg,image/heic,image/tiff,.jpg,.jpeg,.heic,.tif,.tiff"
          onFile={(file) => void fromPhoto(file)}
        />
      </Box>
      {silent && (
        <Typography variant="body2" role="alert">
          That photo doesn’t say where it was taken. Many phones leave it out unless asked.
        </Typography>
      )}
      {polar && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
          <TextField
            select
            size="small"
            margin="dense"
            label="From"
            value={polar.from}
            onChange={(e) => count({ ...polar, from: Number(e.target.value) })}
            sx={{ flex: "1 1 160px" }}
          >
            {known.map((k, n) => (
              <MenuItem key={k.name} value={n}>
                {k.name}
              </MenuItem>
            ))}
          </TextField>
          {(["bearing", "metres"] as const).map((part) => (
            <TextField
              key={part}
              size="small"
              margin="dense"
              label={part === "bearing" ? "Bearing, °" : "Distance, m"}
              value={polar[part]}
              error={polar[part] !== "" && decimal(polar[part]) === null}
              onChange={(e) => count({ ...polar, [part]: e.target.value })}
              sx={{ width: 116 }}
              slotProps={{ htmlInput: { inputMode: "decimal" } }}
            />
          ))}
        </Box>
      )}
    </>
  );
}
