import CloseIcon from "@mui/icons-material/Close";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Slider from "@mui/material/Slider";
import Typography from "@mui/material/Typography";
import { useId, useState } from "react";
import { useUnits } from "../shell/preferences";
import { digitsOf, meant, numeral, shown, unitName, type Quantity } from "../units/units";

interface Common {
  label: string;
  quantity: Quantity;
  /** Limits of the slider, SI. */
  min: number;
  max: number;
  /** Limits of what may be typed, SI; the slider's own when left out. */
  least?: number;
  most?: number;
  /** Step of slider and arrow keys, in the unit shown. */
  step?: number;
  /** Decimals shown; the quantity's own when left out. */
  digits?: number;
  /** A few words under the label. */
  hint?: string;
  slider?: boolean;
}

/** A value that must be known, typed or dragged; given and taken in SI. */
export function QuantityInput({
  label,
  quantity,
  value,
  onChange,
  min,
  max,
  least = min,
  most = max,
  step,
  digits,
  hint,
  slider = true,
  onClear,
  unsaid = false,
  waiting = unsaid,
}: Common & {
  value: number;
  onChange: (value: number) => void;
  onClear?: () => void;
  /** Nobody has said it yet: the field is empty, and `value` is only where the slider begins. */
  unsaid?: boolean;
  /** Whether the field is to be typed in at once. */
  waiting?: boolean;
}) {
  const units = useUnits();
  const id = useId();
  const [typed, setTyped] = useState<string | null>(unsaid ? "" : null);
  const [fault, setFault] = useState<string | null>(null);
  const places = digits ?? digitsOf(quantity);
  const unit = unitName(quantity, units);
  const jump = step ?? (quantity === "speed" ? 0.1 : 1);
  const tidy = (x: number) => Number(x.toFixed(places));
  const range = `${numeral(least, quantity, units, places)} to ${numeral(most, quantity, units, places)} ${unit}`;

  const commit = (entered = false) => {
    if (typed === null) return;
    // An empty field that was asked for stays, until something is said or it is put away.
    if (unsaid && typed.trim() === "") return entered ? onClear?.() : undefined;
    const number = Number(typed.trim().replace(",", ".").replace("−", "-"));
    if (typed.trim() === "" || !Number.isFinite(number)) {
      setFault(`Type a number, ${range}.`);
      return;
    }
    const si = meant(number, quantity, units);
    const slack = 1e-6 * Math.max(1, Math.abs(most));
    if (si < least - slack || si > most + slack) {
      setFault(`${typed.trim()} is out of range: ${range}.`);
      return;
    }
    setFault(null);
    setTyped(null);
    // Untouched digits beyond those shown must not be rounded away by passing through.
    if (unsaid || number !== tidy(shown(value, quantity, units))) {
      onChange(Math.min(most, Math.max(least, si)));
    }
  };

  return (
    <Box sx={{ py: 0.5 }}>
      <Box sx={{ display: "flex", alignItems: "baseline", gap: 1 }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <Typography component="label" htmlFor={id}>
            {label}
          </Typography>
          {hint && (
            <Typography id={`${id}-hint`} component="span" variant="body2" color="text.secondary">
              {" "}
              {hint}
            </Typography>
          )}
        </Box>
        {onClear && (
          <IconButton
            size="small"
            sx={{ alignSelf: "center", my: -1, minWidth: 44, minHeight: 48 }}
            aria-label={`${label}: not known`}
            onClick={onClear}
          >
            <CloseIcon fontSize="small" />
          </IconButton>
        )}
        <Box
          component="input"
          id={id}
          inputMode="decimal"
          autoFocus={waiting}
          autoComplete="off"
          aria-invalid={fault !== null}
          aria-describedby={fault ? `${id}-fault` : hint ? `${id}-hint` : undefined}
          value={typed ?? numeral(value, quantity, units, places).replaceAll(",", "")}
          onFocus={(e: React.FocusEvent<HTMLInputElement>) => e.target.select()}
          onChange={(e: React.ChangeEvent<HTMLInputElement>) => setTyped(e.target.value)}
          onBlur={() => commit()}
          onKeyDown={(e: React.KeyboardEvent<HTMLInputElement>) => {
            if (e.key === "Enter") commit(true);
            if (e.key === "Escape") {
              setTyped(unsaid ? "" : null);
              setFault(null);
              if (unsaid) onClear?.();
            }
          }}
          sx={{
            width: `${Math.max(4, numeral(value, quantity, units, places).length + 1.5)}ch`,
            maxWidth: "8rem",
            minHeight: 36,
            textAlign: "right",
            font: "inherit",
            fontSize: "1.1rem",
            fontWeight: 750,
            color: "inherit",
            bgcolor: "transparent",
            border: "1px solid transparent",
            borderColor: fault ? "error.main" : "transparent",
            borderBottomColor: fault ? "error.main" : "divider",
            borderRadius: 1,
            px: 0.5,
            "&:hover": { borderColor: "divider" },
          }}
        />
        <Typography color="text.secondary" sx={{ minWidth: "2.4em" }}>
          {unit}
        </Typography>
      </Box>
      {fault && (
        <Typography id={`${id}-fault`} role="alert" variant="body2" color="error">
          {fault}
        </Typography>
      )}
      {slider && (
        <Slider
          aria-label={`${label}, slider`}
          size="small"
          value={shown(value, quantity, units)}
          min={tidy(shown(min, quantity, units))}
          max={tidy(shown(max, quantity, units))}
          step={jump}
          getAriaValueText={() => `${numeral(value, quantity, units, places)} ${unit}`}
          onChange={(_, next) => {
            setTyped(null);
            setFault(null);
            onChange(Math.min(max, Math.max(min, meant(next as number, quantity, units))));
          }}
          sx={{
            display: "block",
            py: 1.25,
            "& .MuiSlider-thumb": {
              width: 22,
              height: 22,
              bgcolor: "background.paper",
              border: "3px solid",
              borderColor: "primary.main",
              // The thumb is drawn small and felt large.
              "&::after": { width: 48, height: 48 },
            },
            "& .MuiSlider-rail": { opacity: 1, bgcolor: "divider" },
          }}
        />
      )}
    </Box>
  );
}

/** A value that may be unknown. */
export function OptionalQuantityInput({
  value,
  onChange,
  first,
  unknown = "not known",
  always = false,
  ...common
}: Common & {
  value: number | null | undefined;
  onChange: (value: number | null) => void;
  /** Where its slider begins; nothing is said until it is typed or dragged. */
  first: number;
  unknown?: string;
  /** The empty field stands there from the beginning, without being asked for. */
  always?: boolean;
}) {
  const [asking, setAsking] = useState(false);
  if (value != null || asking || always) {
    return (
      <QuantityInput
        {...common}
        key={value == null ? "asking" : "said"}
        value={value ?? first}
        unsaid={value == null}
        waiting={asking}
        onChange={(said) => {
          setAsking(false);
          onChange(said);
        }}
        onClear={
          always && value == null
            ? undefined
            : () => {
                setAsking(false);
                if (value != null) onChange(null);
              }
        }
      />
    );
  }
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 48 }}>
      <Typography sx={{ flex: 1 }}>{common.label}</Typography>
      <Typography color="text.secondary">{unknown}</Typography>
      <Button
        size="small"
        variant="outlined"
        aria-label={`${common.label}: set`}
        onClick={() => setAsking(true)}
      >
        Set
      </Button>
    </Box>
  );
}
