import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useRef } from "react";
import { AlertBox } from "../flight/AlertBox";
import { useUnits } from "../shell/preferences";
import { useWide } from "../shell/useWide";
import { written } from "../units/units";
import { FromAbove, FromTheSide } from "./Drawn";
import type { Acts, Doing } from "./flight";
import type { UnderWay } from "./kept";
import { notices } from "./notices";
import { ACTS } from "./review";
import { deckAt, type Act, type HomeFlight } from "./tables";
import { useFlying } from "./useFlying";
import { ACT_WORDS, clock } from "./words";

const DOING: Record<Doing, string> = {
  hover_check: "Hover check",
  rise: "Climbing",
  out: "Flying out",
  station: "Filming",
  planned: "Flying home",
  by_hand: "Flying home manually",
  return_home: "Return to home",
  hold: "Holding still",
  down: "Landing",
};

const FASTEST = 64;

/** The flight under way: what the pilot notices, what the display shows, what can be done. */
export function InTheAir({
  home,
  speed: first,
  left,
  end,
}: {
  home: HomeFlight;
  speed: number;
  /** Where it was left in the air. */
  left: UnderWay | null;
  end: (acts: Acts) => void;
}) {
  const { flight, seen, old, acts, track, speed, setSpeed, act } = useFlying(home, first, left);
  const units = useUnits();
  const wide = useWide();
  const ended = flight.ended !== null;
  const done = useRef(end);
  useEffect(() => {
    done.current = end;
  });
  useEffect(() => {
    if (ended) done.current(acts);
  }, [ended, acts]);
  useKeys(act, () => setSpeed(speed === 0 ? first : 0));
  const [deck_x, deck_y] = deckAt(home.mishap, seen.at_s);
  const found = notices(flight);
  const shown = old === null ? track : track.filter((p) => p.at_s <= seen.at_s);
  const paused = speed === 0;
  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) 340px" },
        columnGap: 2.5,
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        <AlertBox
          role="log"
          label="What you notice"
          compact
          tone={found.length > 0 ? "care" : null}
          large={found[0] ?? DOING[flight.doing]}
          small={found[1] ?? (found.length > 0 ? "" : "Nothing unusual.")}
        />
        <Box
          sx={{
            display: "flex",
            flexWrap: "wrap",
            columnGap: { xs: 1.25, md: 3 },
            opacity: old === null ? 1 : 0.6,
          }}
        >
          <FigureOf name="Flight time" value={clock(flight.at_s)} />
          <FigureOf name="Charge" value={`${Math.round(seen.charge_pct)}%`} />
          <FigureOf
            name="Distance"
            value={written(Math.hypot(seen.x - deck_x, seen.y - deck_y), "length", units)}
          />
          <FigureOf name="Height" value={written(seen.z, "length", units)} />
          <FigureOf name="Speed" value={written(seen.ground_ms, "speed", units)} />
        </Box>
        <Typography variant="body2" color="text.secondary" sx={{ minHeight: 22 }}>
          {old === null
            ? `${DOING[flight.doing]}${flight.fast ? ", fast mode" : ""}. By the plan it turns back at ${clock(home.turn_s)}.`
            : `As last seen at ${clock(old)}.`}
        </Typography>
        <FromTheSide
          home={home}
          track={shown}
          at={seen}
          faded={old !== null}
          height={wide ? undefined : 150}
        />
        {wide && <FromAbove home={home} track={shown} at={seen} faded={old !== null} />}
      </Box>
      <Box>
        <Box
          sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1, my: 1 }}
          role="group"
          aria-label="What you do"
        >
          {ACTS.map((key, n) => (
            <Button
              key={key}
              variant={key === "turn_back" ? "contained" : "outlined"}
              sx={{ minHeight: 52, gridColumn: key === "walk" ? "1 / -1" : undefined }}
              onClick={() => act(key)}
              aria-keyshortcuts={`${n + 1}`}
            >
              {ACT_WORDS[key]}
            </Button>
          ))}
        </Box>
        <Box sx={{ display: "flex", gap: 1 }} role="group" aria-label="Speed">
          <Button
            variant="outlined"
            sx={{ minHeight: 48, flex: 1 }}
            disabled={paused || speed <= 1}
            onClick={() => setSpeed(speed / 2)}
          >
            Slower
          </Button>
          <Button
            variant="outlined"
            sx={{ minHeight: 48, flex: 1 }}
            onClick={() => setSpeed(paused ? first : 0)}
          >
            {paused ? "Go on" : "Pause"}
          </Button>
          <Button
            variant="outlined"
            sx={{ minHeight: 48, flex: 1 }}
            disabled={paused || speed >= FASTEST}
            onClick={() => setSpeed(speed * 2)}
          >
            Faster
          </Button>
        </Box>
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          {paused ? "Stopped." : `${speed} times as fast as in the air.`}
          {wide &&
            " Keys 1 to 9 do the same as the buttons, in their order; the space bar stops it."}
        </Typography>
        <Done acts={acts} />
      </Box>
    </Box>
  );
}

/** Keys 1 to 9 for the buttons in their order, the space bar to stop and go on. */
function useKeys(todo: (act: Act) => void, stop: () => void) {
  const now = useRef({ todo, stop });
  useEffect(() => {
    now.current = { todo, stop };
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
      const key = ACTS[Number(event.key) - 1];
      if (key !== undefined) now.current.todo(key);
      else if (event.key === " " && !(event.target instanceof HTMLButtonElement)) {
        event.preventDefault();
        now.current.stop();
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}

/** What was done so far, the latest first. */
function Done({ acts }: { acts: Acts }) {
  if (acts.length === 0) return null;
  return (
    <Typography variant="body2" role="status" sx={{ mt: 1 }}>
      {[...acts]
        .reverse()
        .slice(0, 3)
        .map(({ at_s, act }) => `${clock(at_s)} ${ACT_WORDS[act]}`)
        .join(" · ")}
    </Typography>
  );
}

function FigureOf({ name, value }: { name: string; value: string }) {
  return (
    <Box sx={{ minWidth: { xs: 60, md: 78 } }}>
      <Typography variant="body2" color="text.secondary">
        {name}
      </Typography>
      <Typography
        sx={{
          fontSize: { xs: "1.1rem", md: "1.3rem" },
          fontWeight: 700,
          fontVariantNumeric: "tabular-nums",
        }}
      >
        {value}
      </Typography>
    </Box>
  );
}
