import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { EVERYTHING, type Wanted } from "../api/flights";

const CHOICES = [
  { key: "aircraft", label: "Aircraft" },
  { key: "pack", label: "Battery" },
  { key: "place", label: "Place" },
] as const;

/** Words, names and days to look for. */
export function Filters({
  wanted,
  names,
  change,
}: {
  wanted: Wanted;
  names: Record<string, string[]>;
  change: (next: Partial<Wanted>) => void;
}) {
  const any = Object.values(wanted).some((v) => v !== "");
  return (
    <Box
      role="search"
      aria-label="Logbook"
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "1fr 1fr", sm: "repeat(3, 1fr)" },
        gap: 1,
        mb: 1,
      }}
    >
      <TextField
        size="small"
        type="search"
        label="Search"
        value={wanted.text}
        onChange={(e) => change({ text: e.target.value.slice(0, 200) })}
      />
      {CHOICES.map(({ key, label }) => (
        <TextField
          key={key}
          select
          size="small"
          label={label}
          value={(names[key] ?? []).includes(wanted[key]) ? wanted[key] : ""}
          onChange={(e) => change({ [key]: e.target.value })}
        >
          <MenuItem value="">all</MenuItem>
          {(names[key] ?? []).map((name) => (
            <MenuItem key={name} value={name}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      ))}
      {(["since", "until"] as const).map((key) => (
        <TextField
          key={key}
          type="date"
          size="small"
          label={key === "since" ? "From" : "To"}
          value={wanted[key]}
          onChange={(e) => change({ [key]: e.target.value })}
          slotProps={{ inputLabel: { shrink: true } }}
        />
      ))}
      {any && (
        <Button
          sx={{ gridColumn: "1 / -1", justifySelf: "start" }}
          onClick={() => change(EVERYTHING)}
        >
          Clear the filter
        </Button>
      )}
    </Box>
  );
}
