import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { useDevices } from "../../api/site";
import { nearFives } from "../../flight/words";

/**
 * Charges in fives, one touch each: those around what is expected first, all of them on request. No battery gains
 * charge in the air: one that is higher than the last is asked back before it counts.
 */
export function ReadingPad({
  expected,
  last,
  begun,
  read,
  correct,
}: {
  expected: number;
  last: number;
  /** The charge at take-off. */
  begun: number;
  read: (value: number) => void;
  /** This one counts, and those before it that were lower were slips. */
  correct: (value: number) => void;
}) {
  const [all, setAll] = useState(false);
  const [higher, setHigher] = useState<number | null>(null);
  const says = useDevices().data?.aircraft?.says.charge_pct ?? null;
  const values = all ? nearFives(100, begun, 21) : nearFives(expected, last, 7);
  const choose = (value: number) => {
    setAll(false);
    if (value > Math.ceil(last / 5) * 5) setHigher(value);
    else read(value);
  };
  if (higher !== null)
    return (
      <Box role="alertdialog" aria-label="A higher reading">
        <Typography sx={{ fontWeight: 700, mb: 1 }}>
          {Math.round(last)}% was read before; {Math.round(higher)}% now?
        </Typography>
        <Button
          fullWidth
          autoFocus
          variant="outlined"
          sx={{ minHeight: 56, mb: 0.75 }}
          onClick={() => setHigher(null)}
        >
          No, a slip: keep {Math.round(last)}%
        </Button>
        <Button
          fullWidth
          sx={{ minHeight: 56 }}
          onClick={() => {
            setHigher(null);
            correct(higher);
          }}
        >
          Yes, {Math.round(higher)}%: the earlier one was a slip
        </Button>
      </Box>
    );
  return (
    <Box
      role="group"
      aria-label="Charge reading"
      sx={{ display: "grid", gridTemplateColumns: "repeat(4, 1fr)", gap: 0.75 }}
    >
      {values.map((value) => (
        <Button
          key={value}
          variant="outlined"
          sx={{ minHeight: 56, fontSize: "1.2rem", minWidth: 0 }}
          onClick={() => choose(value)}
        >
          {value}%
        </Button>
      ))}
      {!all && (
        <Button sx={{ minHeight: 56, minWidth: 0 }} onClick={() => setAll(true)}>
          Other
        </Button>
      )}
      {says !== null && (
        <Button
          variant="outlined"
          sx={{ minHeight: 56, gridColumn: "1 / -1" }}
          onClick={() => (says > last ? setHigher(says) : read(says))}
        >
          {Math.round(says)}% (from the aircraft)
        </Button>
      )}
    </Box>
  );
}
