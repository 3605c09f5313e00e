import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import Typography from "@mui/material/Typography";
import { useState, type KeyboardEvent, type PointerEvent } from "react";
import { Problem } from "../api/client";
import { FileButton } from "../inputs/FileButton";
import { PositionInput, type Known } from "../inputs/PositionInput";
import { readPosition, type Position } from "../inputs/position";
import Dialog from "../shell/Dialog";
import { ProblemNote } from "../shell/notes";

/** A point of the scan [pixels] and the position typed for it. */
interface Pin {
  column: number;
  row: number;
  text: string;
}

interface Scan {
  file: File;
  shown: string;
  width: number;
  height: number;
}

export type HeldPin = Position & { column: number; row: number };

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The picture of a file, as a page may show it that takes pictures from nowhere else. */
function opened(file: File): Promise<Scan> {
  return new Promise((resolve, reject) => {
    const refused = () =>
      reject(new Problem(0, "That file isn’t a picture. Choose a PNG or JPEG of the map."));
    const reader = new FileReader();
    reader.onerror = refused;
    reader.onload = () => {
      const shown = String(reader.result);
      const image = new Image();
      image.onerror = refused;
      image.onload = () =>
        resolve({ file, shown, width: image.naturalWidth, height: image.naturalHeight });
      image.src = shown;
    };
    reader.readAsDataURL(file);
  });
}

/** A scanned map or a screenshot without coordinates, held by two of its points. */
export function ScanDialog({
  known,
  onLay,
  onClose,
}: {
  known: Known[];
  onLay: (file: File, pins: [HeldPin, HeldPin]) => Promise<void>;
  onClose: () => void;
}) {
  const [scan, setScan] = useState<Scan | null>(null);
  const [pins, setPins] = useState<Pin[]>([]);
  const [turn, setTurn] = useState(0);
  const [large, setLarge] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const change = (n: number, next: Partial<Pin>) =>
    setPins(pins.map((pin, i) => (i === n ? { ...pin, ...next } : pin)));
  const put = (event: PointerEvent<HTMLImageElement>) => {
    if (!scan) return;
    const box = event.currentTarget.getBoundingClientRect();
    const column = ((event.clientX - box.left) / box.width) * scan.width;
    const row = ((event.clientY - box.top) / box.height) * scan.height;
    if (pins.length < 2) setPins([...pins, { column, row, text: "" }]);
    else change(turn, { column, row });
  };
  const nudge = (n: number) => (event: KeyboardEvent) => {
    const by = ARROWS[event.key];
    const pin = pins[n];
    if (!by || !pin || !scan) return;
    event.preventDefault();
    change(n, {
      column: Math.min(Math.max(pin.column + by[0], 0), scan.width),
      row: Math.min(Math.max(pin.row + by[1], 0), scan.height),
    });
  };
  const held = pins.map((pin) => {
    const at = readPosition(pin.text);
    return at && { ...at, column: pin.column, row: pin.row };
  });
  const [first, second] = held;
  const lay = async (ends: [HeldPin, HeldPin]) => {
    if (!scan) return;
    setProblem(null);
    setBusy(true);
    try {
      await onLay(scan.file, ends);
    } catch (cause) {
      setProblem(cause instanceof Problem ? cause : new Problem(0, String(cause)));
    } finally {
      setBusy(false);
    }
  };
  const choose = async (file: File) => {
    setProblem(null);
    try {
      setScan(await opened(file));
      setPins([]);
    } catch (cause) {
      setProblem(cause as Problem);
    }
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md" aria-labelledby="scan-title">
      <DialogTitle id="scan-title">Pin a scan</DialogTitle>
      <DialogContent>
        <Typography variant="body2" sx={{ mb: 1 }}>
          {scan === null
            ? "A scanned map or a screenshot, drawn to one scale. Mark two points on it that you know the positions of, far apart."
            : pins.length < 2
              ? `Touch point ${pins.length + 1} on the picture: a crossing, a corner, a bridge.`
              : "Touch the picture to move the chosen point, or use the arrow keys on it."}
        </Typography>
        <Box sx={{ display: "flex", gap: 1, mb: 1 }}>
          <FileButton
            variant="outlined"
            size="small"
            words={scan ? "Another picture" : "Choose the picture"}
            label="Choose the picture"
            accept=".png,.jpg,.jpeg"
            onFile={(file) => void choose(file)}
          />
          {scan && (
            <Button size="small" onClick={() => setLarge(!large)}>
              {large ? "Whole picture" : "Closer"}
            </Button>
          )}
        </Box>
        {scan && (
          <Box sx={{ maxHeight: "45vh", overflow: "auto", border: 1, borderColor: "divider" }}>
            <Box sx={{ position: "relative", width: large ? "300%" : "100%" }}>
              <Box
                component="img"
                src={scan.shown}
                alt="The scan to pin"
                draggable={false}
                onPointerUp={put}
                sx={{ display: "block", width: "100%", cursor: "crosshair" }}
              />
              {pins.map((pin, n) => (
                <Box
                  key={n}
                  component="button"
                  type="button"
                  aria-label={`Point ${n + 1}`}
                  aria-pressed={turn === n}
                  onClick={() => setTurn(n)}
                  onFocus={() => setTurn(n)}
                  onKeyDown={nudge(n)}
                  sx={{
                    position: "absolute",
                    left: `${(100 * pin.column) / scan.width}%`,
                    top: `${(100 * pin.row) / scan.height}%`,
                    transform: "translate(-50%, -50%)",
                    width: 32,
                    height: 32,
                    p: 0,
                    borderRadius: "50%",
                    border: "3px solid var(--ink)",
                    bgcolor: turn === n ? "var(--card)" : "transparent",
                    opacity: 0.85,
                    color: "var(--ink)",
                    font: "inherit",
                    fontWeight: 700,
                    textShadow: "0 0 3px var(--card), 0 0 3px var(--card)",
                  }}
                >
                  {n + 1}
                </Box>
              ))}
            </Box>
          </Box>
        )}
        {pins.map((pin, n) => (
          <Box key={n} role="group" aria-label={`Position of point ${n + 1}`} sx={{ mt: 1 }}>
            <Typography variant="h3">Point {n + 1}</Typography>
            <PositionInput text={pin.text} known={known} onChange={(text) => change(n, { text })} />
          </Box>
        ))}
        {problem && <ProblemNote problem={problem} />}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={busy || !first || !second}
          onClick={() => first && second && void lay([first, second])}
        >
          {busy ? "Laying it…" : "Lay it under the place"}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
