import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { figure } from "./figure";
import type { Background, Look } from "./kept";
import { chances, drawnMm, nextDistance, WAYS, type Said, type Way } from "./staircase";

const SHOWN_MS = 2_000;
const BEFORE_MS = 700;
const STAGE_PX = 320;
const HEIGHT_M = 40;

export const SKY: Record<Background, { name: string; fill: string; mark: string }> = {
  bright: { name: "Bright sky", fill: "#dde8f1", mark: "#5d6b78" },
  dull: { name: "Dull sky", fill: "#a3adb5", mark: "#2e363d" },
  trees: { name: "Trees", fill: "#36442f", mark: "#c3cdb8" },
};

const KEYS: Record<string, Way> = {
  ArrowUp: "away",
  ArrowDown: "towards",
  ArrowLeft: "left",
  ArrowRight: "right",
};

const ANSWERS: { way: Way; words: string; area: string }[] = [
  { way: "away", words: "Away", area: "up" },
  { way: "left", words: "Left", area: "left" },
  { way: "right", words: "Right", area: "right" },
  { way: "towards", words: "To me", area: "down" },
];

interface Shown {
  way: Way;
  distance_m: number;
  jitter: number;
  above: number;
  x: number;
  y: number;
}

/** What a trial shows: the same for a look and the number of the trial, also after a reload. */
function showing(uid: string, said: readonly Said[], size_m: number, most_m: number): Shown {
  const right = said.map((s) => s.way === s.said);
  const distance_m = nextDistance(right, size_m, most_m);
  const [way, jitter, x, y] = chances(uid, said.length);
  return {
    way: WAYS[Math.floor(way * WAYS.length)]!,
    distance_m,
    jitter: (jitter - 0.5) * 40,
    above: (Math.asin(Math.min(HEIGHT_M / distance_m, 0.6)) * 180) / Math.PI,
    x: 0.3 + 0.4 * x,
    y: 0.3 + 0.4 * y,
  };
}

/** One aircraft after the other, at the distance that the answers lead to. */
export function EyeRun({
  look,
  px_per_mm,
  most_m,
  trials,
  answered,
  stop,
}: {
  look: Look;
  px_per_mm: number;
  most_m: number;
  trials: number;
  answered: (said: Said) => void;
  stop: () => void;
}) {
  const { said, size_m, timed } = look;
  const shown = useMemo(
    () => showing(look.uid, said, size_m, most_m),
    [look.uid, said, size_m, most_m],
  );
  const phase = usePhase(said.length, timed);
  const open = phase !== "before";
  const answer = useCallback(
    (way: Way) => {
      if (open) answered({ distance_m: shown.distance_m, way: shown.way, said: way });
    },
    [open, answered, shown],
  );
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      const way = KEYS[event.key];
      if (!way || event.repeat) return;
      event.preventDefault();
      answer(way);
    };
    window.addEventListener("keydown", key);
    return () => window.removeEventListener("keydown", key);
  }, [answer]);
  const px = drawnMm(size_m, shown.distance_m, look.viewing_mm) * px_per_mm;
  const sky = SKY[look.background];
  return (
    <Box>
      <Box
        role="img"
        aria-label="The sky"
        data-phase={phase}
        data-shown={shown.way}
        sx={{
          position: "relative",
          height: STAGE_PX,
          maxWidth: 640,
          bgcolor: sky.fill,
          borderRadius: "14px",
          overflow: "hidden",
        }}
      >
        <Box sx={{ position: "absolute", left: `${shown.x * 100}%`, top: `${shown.y * 100}%` }}>
          {phase === "before" && (
            <Box
              sx={{
                width: 36,
                height: 36,
                m: "-18px",
                borderRadius: "50%",
                border: `2px solid ${sky.mark}`,
              }}
            />
          )}
          {phase === "shown" && <Aircraft shown={shown} px={px} />}
        </Box>
      </Box>
      <Typography sx={{ my: 1 }} role="status">
        {said.length + 1} of {trials}. Which way does it point?
      </Typography>
      <Box
        role="group"
        aria-label="Which way does it point?"
        sx={{
          display: "grid",
          gap: 1,
          maxWidth: 420,
          gridTemplateAreas: '". up ." "left down right"',
          gridTemplateColumns: "1fr 1fr 1fr",
        }}
      >
        {ANSWERS.map(({ way, words, area }) => (
          <Button
            key={way}
            variant="outlined"
            sx={{ gridArea: area, minHeight: 64 }}
            aria-disabled={!open}
            onClick={() => answer(way)}
          >
            {words}
          </Button>
        ))}
      </Box>
      <Button sx={{ minHeight: 48, mt: 1 }} onClick={stop}>
        Stop; go on later
      </Button>
    </Box>
  );
}

/** A ring where it will be, then the aircraft, then nothing more; an answer may take its time. */
function usePhase(trial: number, timed: boolean): "before" | "shown" | "gone" {
  const [at, setAt] = useState<{ trial: number; phase: "before" | "shown" | "gone" }>({
    trial,
    phase: "before",
  });
  const timers = useRef<ReturnType<typeof setTimeout>[]>([]);
  useEffect(() => {
    const set = (phase: "shown" | "gone") => () => setAt({ trial, phase });
    timers.current = [setTimeout(set("shown"), BEFORE_MS)];
    if (timed) timers.current.push(setTimeout(set("gone"), BEFORE_MS + SHOWN_MS));
    return () => timers.current.forEach(clearTimeout);
  }, [trial, timed]);
  return at.trial === trial ? at.phase : "before";
}

function Aircraft({ shown, px }: { shown: Shown; px: number }) {
  const faces = useMemo(() => figure(shown.way, shown.jitter, shown.above), [shown]);
  return (
    <svg
      width={px}
      height={px}
      viewBox="-0.5 -0.5 1 1"
      style={{ position: "absolute", left: -px / 2, top: -px / 2, overflow: "visible" }}
    >
      {faces.map((face, n) => (
        <polygon key={n} points={face.points} fill={face.fill} />
      ))}
    </svg>
  );
}
