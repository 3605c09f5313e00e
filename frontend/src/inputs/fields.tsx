import ExpandMoreIcon from "@mui/icons-material/ExpandMore";
import Accordion from "@mui/material/Accordion";
import AccordionDetails from "@mui/material/AccordionDetails";
import AccordionSummary from "@mui/material/AccordionSummary";
import Box from "@mui/material/Box";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import Switch from "@mui/material/Switch";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useState, type ReactNode } from "react";

/** One of a few named things. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  hint,
}: {
  label: string;
  value: T;
  options: Record<T, string>;
  onChange: (value: T) => void;
  /** A few words under it. */
  hint?: string;
}) {
  return (
    <TextField
      select
      fullWidth
      size="small"
      margin="dense"
      label={label}
      value={value}
      helperText={hint}
      onChange={(e) => onChange(e.target.value as T)}
    >
      {(Object.keys(options) as T[]).map((key) => (
        <MenuItem key={key} value={key}>
          {options[key]}
        </MenuItem>
      ))}
    </TextField>
  );
}

export function Toggle({
  label,
  value,
  onChange,
}: {
  label: string;
  value: boolean;
  onChange: (value: boolean) => void;
}) {
  return (
    <FormControlLabel
      sx={{ minHeight: 48, display: "flex", mr: 0 }}
      control={<Switch checked={value} onChange={(e) => onChange(e.target.checked)} />}
      label={label}
    />
  );
}

/** A line of text, taken when it is left. `required` says what to type when it is empty. */
export function Words({
  label,
  value,
  onChange,
  required,
  max = 120,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  required?: string;
  max?: number;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const empty = required !== undefined && typed !== null && typed.trim() === "";
  const commit = () => {
    if (typed !== null && !empty && typed !== value) onChange(typed.trim());
    if (!empty) setTyped(null);
  };
  return (
    <TextField
      fullWidth
      size="small"
      margin="dense"
      label={label}
      value={typed ?? value}
      error={empty}
      helperText={empty ? required : undefined}
      slotProps={{ htmlInput: { maxLength: max } }}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => e.key === "Enter" && commit()}
    />
  );
}

/** Inputs that a pilot thinks of together; folded, it says what is in it. */
export function Group({
  title,
  summary,
  open = false,
  children,
}: {
  title: string;
  summary: string;
  open?: boolean;
  children: ReactNode;
}) {
  return (
    <Accordion
      defaultExpanded={open}
      disableGutters
      slotProps={{ heading: { component: "h2" }, transition: { unmountOnExit: true } }}
      sx={{
        border: 1,
        borderColor: "divider",
        borderRadius: "14px",
        mb: 1,
        "&::before": { display: "none" },
        "&:first-of-type, &:last-of-type": { borderRadius: "14px" },
      }}
    >
      <AccordionSummary expandIcon={<ExpandMoreIcon />} sx={{ minHeight: 52 }}>
        <Box sx={{ minWidth: 0 }}>
          <Typography component="span" sx={{ fontWeight: 750, mr: 1 }}>
            {title}
          </Typography>
          <Typography component="span" variant="body2" color="text.secondary">
            {summary}
          </Typography>
        </Box>
      </AccordionSummary>
      <AccordionDetails sx={{ pt: 0 }}>{children}</AccordionDetails>
    </Accordion>
  );
}
