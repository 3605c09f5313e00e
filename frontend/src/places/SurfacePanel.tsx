import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import { useState, type ReactNode } from "react";
import { Problem, type Feature, type MeasuredHeight, type Place } from "../api/client";
import { heightsMeasured } from "../api/places";
import { ProblemNote } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { written } from "../units/units";
import { withHeights } from "./mapData";

/** Heights nearer to each other than this are the same, as both models are [m]. */
const SAME_M = 1;

/** Tree tops and roofs beside the ground: they stand in the way, and measure what is drawn. */
export function SurfacePanel({
  placeId,
  place,
  bring,
  onDrop,
  onMeasured,
  flush,
}: {
  placeId: number;
  place: Place;
  bring: ReactNode;
  onDrop: () => void;
  onMeasured: (features: Feature[]) => void;
  flush: () => Promise<number>;
}) {
  const units = useUnits();
  const [found, setFound] = useState<MeasuredHeight[] | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [problem, setProblem] = useState<Problem | null>(null);
  const length = (m: number) => written(m, "length", units);
  const measure = async () => {
    setProblem(null);
    try {
      await flush();
      const measured = await heightsMeasured(placeId);
      setFound(measured);
      setLeft(
        new Set(
          measured.filter((m) => Math.abs(m.measured_m - m.drawn_m) < SAME_M).map((m) => m.id),
        ),
      );
    } catch (cause) {
      setProblem(cause instanceof Problem ? cause : new Problem(0, String(cause)));
    }
  };
  const taken = (found ?? []).filter((m) => !left.has(m.id));
  return (
    <Paper
      component="section"
      aria-label="Surface model"
      variant="outlined"
      sx={{ borderRadius: "14px", p: 1.5, mb: 1 }}
    >
      <Typography variant="h2">Surface model</Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {place.surface
          ? `${place.surface.name}: what stands above the ground counts for every way and the radio path, drawn or not. Wires don’t show in it.`
          : place.terrain
            ? "Heights with tree tops and roofs (GeoTIFF, ASCII grid). What stands above the ground then counts, whoever drew it or not."
            : "Needs the terrain: what stands there is the surface above the ground."}
      </Typography>
      {problem && <ProblemNote problem={problem} />}
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
        {place.terrain && bring}
        {place.surface && (
          <>
            <Button size="small" onClick={() => void measure()}>
              Measure what is drawn
            </Button>
            <Button
              size="small"
              color="error"
              onClick={() => {
                setFound(null);
                onDrop();
              }}
            >
              Remove surface model
            </Button>
          </>
        )}
      </Box>
      {found?.length === 0 && (
        <Typography variant="body2" sx={{ mt: 1 }}>
          It shows nothing where woods, buildings or masts are drawn.
        </Typography>
      )}
      {found && found.length > 0 && (
        <Box role="group" aria-label="Measured heights" sx={{ mt: 1 }}>
          {found.map((m) => (
            <FormControlLabel
              key={m.id}
              sx={{ display: "flex", minHeight: 48 }}
              control={
                <Checkbox
                  checked={!left.has(m.id)}
                  onChange={(_, on) => {
                    const next = new Set(left);
                    if (on) next.delete(m.id);
                    else next.add(m.id);
                    setLeft(next);
                  }}
                />
              }
              label={
                `${m.name || m.kind}: ${length(m.measured_m)}, drawn ${length(m.drawn_m)}` +
                (m.known < 0.95 ? ` (${Math.round(100 * m.known)}% of it known)` : "")
              }
            />
          ))}
          <Button
            variant="contained"
            disabled={taken.length === 0}
            onClick={() => {
              onMeasured(withHeights(place.features, taken));
              setFound(null);
            }}
          >
            {taken.length === 0
              ? "All agree"
              : taken.length === 1
                ? "Take 1 height"
                : `Take ${taken.length} heights`}
          </Button>
        </Box>
      )}
    </Paper>
  );
}
