import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useState } from "react";
import { useDevices } from "../../api/site";
import { nearFives } from "./words";

/** Charges in fives, one touch each: those around what is expected first, all of them on request. */
export function ReadingPad({
  expected,
  last,
  read,
}: {
  expected: number;
  last: number;
  read: (value: number) => void;
}) {
  const [all, setAll] = useState(false);
  const says = useDevices().data?.aircraft?.says.charge_pct ?? null;
  const values = all ? nearFives(100, last, 21) : nearFives(expected, last, 7);
  return (
    <Box
      role="group"
      aria-label="Charge read"
      sx={{ display: "grid", gridTemplateColumns: "repeat(4, 1fr)", gap: 0.75 }}
    >
      {values.map((value) => (
        <Button
          key={value}
          variant="outlined"
          sx={{ minHeight: 56, fontSize: "1.2rem", minWidth: 0 }}
          onClick={() => {
            setAll(false);
            read(value);
          }}
        >
          {value} %
        </Button>
      ))}
      {!all && (
        <Button sx={{ minHeight: 56, minWidth: 0 }} onClick={() => setAll(true)}>
          Other
        </Button>
      )}
      {says !== null && says <= last && (
        <Button
          variant="outlined"
          sx={{ minHeight: 56, gridColumn: "1 / -1" }}
          onClick={() => read(says)}
        >
          {Math.round(says)} % as the aircraft says
        </Button>
      )}
    </Box>
  );
}
