import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import type { Plan } from "../../api/client";
import type { Change } from "../../editing/change";
import { keep, kept } from "../../shell/device";
import { useUnits } from "../../shell/preferences";
import { QuantityInput } from "../../inputs/QuantityInput";
import { written } from "../../units/units";
import { driftM } from "./drift";

/** From here on a return would end in the water beside the boat [m]. */
const FAR_M = 15;

interface HomePoint {
  setAt: number | null;
}

/** A deck moves on; the home point stays. How far apart they are by now, kept through reload. */
export function Drift({
  sessionId,
  platform,
  change: put,
}: {
  sessionId: number;
  platform: Plan["site"]["platform"];
  change: Change<Plan>;
}) {
  const units = useUnits();
  const name = `lark drift ${sessionId}`;
  const [home, setHome] = useState<HomePoint>(() => kept<HomePoint>(name) ?? { setAt: null });
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, []);
  const change = (next: HomePoint) => {
    keep(name, next);
    setHome(next);
    setNow(Date.now());
  };
  const away = home.setAt === null ? null : driftM(platform.speed_ms, home.setAt, now);
  return (
    <>
      <QuantityInput
        label="The deck moves at"
        quantity="speed"
        min={0}
        max={5}
        most={20}
        value={platform.speed_ms}
        onChange={(speed_ms) => put(["site", "platform"], { ...platform, speed_ms })}
      />
      <Button
        variant="contained"
        fullWidth
        sx={{ minHeight: 56 }}
        onClick={() => change({ setAt: Date.now() })}
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
          It would return to where the {platform.kind} was, not to you. Set the home point again
          before the next start.
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
