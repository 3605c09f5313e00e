import Button from "@mui/material/Button";
import Dialog from "../shell/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take, type Problem } from "../api/client";
import { ProblemNote } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { useWall } from "../api/timeZone";
import { isoOf } from "../shell/time";
import { Choice } from "../inputs/fields";
import { QuantityInput } from "../inputs/QuantityInput";
import type { LatLon } from "../map/local";
import { written } from "../units/units";

const WAYS = {
  angle: "By its distance and angle above the horizon",
  shadow: "By its shadow and the sun",
} as const;

/** How high is it? From where the pilot stands. */
export function HeightDialog({
  at,
  distance,
  onClose,
  onFound,
}: {
  at: LatLon;
  distance: number | null;
  onClose: () => void;
  onFound: (height: number) => void;
}) {
  const units = useUnits();
  const [way, setWay] = useState<keyof typeof WAYS>("angle");
  const [far, setFar] = useState(distance && distance >= 1 ? distance : 50);
  const [angle, setAngle] = useState(20);
  const [shadow, setShadow] = useState(20);
  const wall = useWall({ latitude: at.lat, longitude: at.lon });
  const [typed, setTyped] = useState<string | null>(null);
  const [opened] = useState(() => new Date().toISOString());
  const when = typed ?? wall.time(opened).local;
  const time = when.length === 16 ? isoOf({ local: when, offset: wall.offset(when) }) : null;
  const found = useQuery({
    queryKey: ["height", way, far, angle, shadow, at, time],
    queryFn: ({ signal }) =>
      way === "angle"
        ? take(
            client.GET("/api/height/angle", {
              params: { query: { distance_m: far, angle_deg: angle } },
              signal,
            }),
          )
        : take(
            client.GET("/api/height/shadow", {
              params: {
                query: { shadow_m: shadow, latitude: at.lat, longitude: at.lon, at: time! },
              },
              signal,
            }),
          ),
    enabled: way === "angle" || time !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const height = found.error ? undefined : found.data;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="height-title">
      <DialogTitle id="height-title">How high is it?</DialogTitle>
      <DialogContent>
        <Choice label="How" value={way} options={WAYS} onChange={setWay} />
        {way === "angle" ? (
          <>
            <QuantityInput
              label="Distance to it"
              quantity="length"
              value={far}
              min={1}
              max={300}
              most={2000}
              onChange={setFar}
            />
            <QuantityInput
              label="Angle up to its top"
              quantity="angle"
              value={angle}
              min={0}
              max={80}
              most={89}
              onChange={setAngle}
            />
          </>
        ) : (
          <>
            <QuantityInput
              label="Length of its shadow"
              hint="on level ground"
              quantity="length"
              value={shadow}
              min={1}
              max={200}
              most={1000}
              onChange={setShadow}
            />
            <TextField
              type="datetime-local"
              fullWidth
              margin="dense"
              label={`When (UTC${wall.time(opened).offset})`}
              value={when}
              onChange={(e) => setTyped(e.target.value)}
              slotProps={{ inputLabel: { shrink: true } }}
            />
          </>
        )}
        {found.error && <ProblemNote problem={found.error as Problem} />}
        {height && (
          <Typography role="status" variant="h2" sx={{ mt: 1 }}>
            {written(height.height_m, "length", units)} high
            {height.sun_elevation_deg != null &&
              `, under a sun ${height.sun_elevation_deg.toFixed(0)}° up`}
          </Typography>
        )}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Cancel</Button>
        <Button
          variant="contained"
          disabled={!height || height.height_m < 1}
          onClick={() => onFound(Math.round(height!.height_m * 10) / 10)}
        >
          Take it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
