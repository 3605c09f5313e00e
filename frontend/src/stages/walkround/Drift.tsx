import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { keep, kept } from "../../frame/device";
import { useUnits } from "../../frame/preferences";
import { QuantityInput } from "../../inputs/QuantityInput";
import { written } from "../../units/units";
import { driftM } from "./drift";

/** From here on a return would end in the water beside the boat [m]. */
const FAR_M = 15;

interface Boat {
  deckMs: number;
  setAt: number | null;
}

/** A boat moves on; the home point stays. How far apart they are by now, kept through reload. */
export function Drift({ sessionId }: { sessionId: number }) {
  const units = useUnits();
  const name = `lark drift ${sessionId}`;
  const [boat, setBoat] = useState<Boat>(() => kept<Boat>(name) ?? { deckMs: 0.5, setAt: null });
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  const change = (next: Boat) => {
    keep(name, next);
    setBoat(next);
    setNow(Date.now());
  };
  const away = boat.setAt === null ? null : driftM(boat.deckMs, boat.setAt, now);
  return (
    <>
      <QuantityInput
        label="The deck moves at"
        quantity="speed"
        min={0}
        max={5}
        most={20}
        value={boat.deckMs}
        onChange={(deckMs) => change({ ...boat, deckMs })}
      />
      <Button
        variant="contained"
        fullWidth
        sx={{ minHeight: 56 }}
        onClick={() => change({ ...boat, setAt: Date.now() })}
      >
        Home point set now
      </Button>
      {away !== null && (
        <Typography role="status" sx={{ fontSize: "1.5rem", fontWeight: 750, mt: 1 }}>
          {written(away, "length", units)} from the home point
        </Typography>
      )}
      {away !== null && away > FAR_M && (
        <Alert severity="error" icon={false} sx={{ border: 1, mt: 0.5 }}>
          It would return to empty water. Set the home point anew before the next start.
        </Alert>
      )}
      {away === null && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
          Say so when the aircraft has confirmed its home point: from then on the distance counts.
        </Typography>
      )}
    </>
  );
}
