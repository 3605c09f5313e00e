import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { useUnits } from "../../frame/preferences";
import { QuantityInput } from "../../inputs/QuantityInput";
import { written } from "../../units/units";
import { driftM } from "./drift";

/** From here on a return would end in the water beside the boat [m]. */
const FAR_M = 15;

interface Kept {
  deckMs: number;
  setAt: number | null;
}

/** A boat moves on; the home point stays. How far apart they are by now, kept through reload. */
export function Drift({ sessionId }: { sessionId: number }) {
  const units = useUnits();
  const name = `lark drift ${sessionId}`;
  const [kept, setKept] = useState<Kept>(() => {
    const found = localStorage.getItem(name);
    return found ? (JSON.parse(found) as Kept) : { deckMs: 0.5, setAt: null };
  });
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  const keep = (next: Kept) => {
    localStorage.setItem(name, JSON.stringify(next));
    setKept(next);
    setNow(Date.now());
  };
  const away = kept.setAt === null ? null : driftM(kept.deckMs, kept.setAt, now);
  return (
    <>
      <QuantityInput
        label="The deck moves at"
        quantity="speed"
        min={0}
        max={5}
        most={20}
        value={kept.deckMs}
        onChange={(deckMs) => keep({ ...kept, deckMs })}
      />
      <Button
        variant="contained"
        fullWidth
        sx={{ minHeight: 56 }}
        onClick={() => keep({ ...kept, setAt: Date.now() })}
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
