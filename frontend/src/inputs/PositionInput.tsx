import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { destination } from "../map/local";
import { readPosition, writtenPosition, type Position } from "./position";

/** Somewhere that is known, to count a bearing and a distance from. */
export interface Known extends Position {
  name: string;
}

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
  const [polar, setPolar] = useState(false);
  const [from, setFrom] = useState(0);
  const [bearing, setBearing] = useState("");
  const [metres, setMetres] = useState("");
  const found = readPosition(text);
  const unread = text.trim() !== "" && !found;
  const count = (one: string, other: string) => {
    const origin = known[from];
    const [b, m] = [one, other].map((x) => Number(x.replace(",", ".")));
    if (!origin || one === "" || other === "" || !Number.isFinite(b) || !Number.isFinite(m)) return;
    const at = destination({ lat: origin.latitude, lon: origin.longitude }, b!, m!);
    onChange(`${at.lat.toFixed(6)}, ${at.lon.toFixed(6)}`);
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
      {known.length > 0 && !polar && (
        <Button size="small" onClick={() => setPolar(true)}>
          By bearing and distance
        </Button>
      )}
      {polar && (
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
          <TextField
            select
            size="small"
            margin="dense"
            label="From"
            value={from}
            onChange={(e) => setFrom(Number(e.target.value))}
            sx={{ flex: "1 1 160px" }}
          >
            {known.map((k, n) => (
              <MenuItem key={k.name} value={n}>
                {k.name}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            size="small"
            margin="dense"
            label="Bearing, °"
            value={bearing}
            onChange={(e) => {
              setBearing(e.target.value);
              count(e.target.value, metres);
            }}
            sx={{ width: 110 }}
            slotProps={{ htmlInput: { inputMode: "decimal" } }}
          />
          <TextField
            size="small"
            margin="dense"
            label="Distance, m"
            value={metres}
            onChange={(e) => {
              setMetres(e.target.value);
              count(bearing, e.target.value);
            }}
            sx={{ width: 120 }}
            slotProps={{ htmlInput: { inputMode: "decimal" } }}
          />
        </Box>
      )}
    </>
  );
}
