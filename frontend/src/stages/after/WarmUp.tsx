import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { useWarmUp } from "../../api/flights";
import { keep, kept } from "../../shell/device";
import { useUnits } from "../../shell/preferences";
import { QuantityInput } from "../../inputs/QuantityInput";
import { written } from "../../units/units";
import { inClock, onTheWall } from "../../flight/words";

interface Kept {
  room_c: number;
  humidity_pct: number;
  /** When the bag came in [ms]; null: not yet. */
  in_at: number | null;
}

const USUAL: Kept = { room_c: 21, humidity_pct: 45, in_at: null };

/** How long the bag stays shut, counted down from when it came in; outlasts a reload. */
export function WarmUp({ sessionId, gear_c }: { sessionId: number; gear_c: number }) {
  const units = useUnits();
  const name = `lark.warming.${sessionId}`;
  const [state, setState] = useState<Kept>(() => ({ ...USUAL, ...kept<Kept>(name) }));
  const [gear, setGear] = useState(gear_c);
  const [now, setNow] = useState(() => Date.now());
  const found = useWarmUp({ room_c: state.room_c, humidity_pct: state.humidity_pct, gear_c: gear });
  useEffect(() => {
    if (state.in_at === null) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [state.in_at]);
  const change = (by: Partial<Kept>) => {
    const next = { ...state, ...by };
    setState(next);
    setNow(Date.now());
    keep(name, next);
  };
  const wait = found.data?.wait_s ?? null;
  const left =
    wait === null || state.in_at === null ? null : Math.max(0, wait - (now - state.in_at) / 1000);
  return (
    <>
      <QuantityInput
        label="Gear, as cold as outside"
        quantity="temperature"
        min={-25}
        max={30}
        least={-40}
        most={45}
        value={gear}
        onChange={setGear}
      />
      <QuantityInput
        label="Room"
        quantity="temperature"
        min={5}
        max={30}
        least={-20}
        most={45}
        value={state.room_c}
        onChange={(room_c) => change({ room_c })}
      />
      <QuantityInput
        label="Humidity in the room"
        quantity="percent"
        min={20}
        max={90}
        least={1}
        most={100}
        value={state.humidity_pct}
        onChange={(humidity_pct) => change({ humidity_pct })}
      />
      {found.data && (
        <Typography>
          {found.data.wait_s === 0
            ? "The gear is above the room’s dew point: you can open the bag now."
            : `Water condenses below ${written(found.data.dew_point_c, "temperature", units)}: ` +
              `leave the bag shut for ${Math.ceil(found.data.wait_s / 60)} min.`}
        </Typography>
      )}
      {wait !== null && wait > 0 && state.in_at === null && (
        <Button
          variant="outlined"
          fullWidth
          sx={{ minHeight: 52, mt: 1 }}
          onClick={() => change({ in_at: Date.now() })}
        >
          The bag is inside now
        </Button>
      )}
      {left !== null && wait !== null && wait > 0 && (
        <>
          <Typography
            role="timer"
            aria-label="Bag stays shut"
            sx={{ fontSize: "1.9rem", fontWeight: 800 }}
          >
            {left === 0
              ? "You may open it"
              : `${inClock(left)} left, until ${onTheWall(new Date(now), left)}`}
          </Typography>
          <Button size="small" onClick={() => change({ in_at: null })}>
            Reset timer
          </Button>
        </>
      )}
    </>
  );
}
