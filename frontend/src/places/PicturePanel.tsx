import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import { useState, type ReactNode } from "react";
import type { Place } from "../api/client";
import { sendScan } from "../api/places";
import { useUnits } from "../shell/preferences";
import { written } from "../units/units";
import { ScanDialog } from "./ScanDialog";

/** Something to draw on: a picture with coordinates, or a scan that two points hold. */
export function PicturePanel({
  placeId,
  place,
  bring,
  flush,
  onLaid,
  onDrop,
}: {
  placeId: number;
  place: Place;
  bring: ReactNode;
  flush: () => Promise<number>;
  onLaid: () => void;
  onDrop: () => void;
}) {
  const units = useUnits();
  const [pinning, setPinning] = useState(false);
  // What is drawn with a name can be found again on the scan.
  const known = place.features.flatMap((f) => {
    const at = f.coordinates[0];
    return f.name && at && f.coordinates.length === 1
      ? [{ name: f.name, latitude: at[1]!, longitude: at[0]! }]
      : [];
  });
  return (
    <Paper
      component="section"
      aria-label="Picture from above"
      variant="outlined"
      sx={{ borderRadius: "14px", p: 1.5, mb: 1 }}
    >
      <Typography variant="h2">Picture from above</Typography>
      <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
        {place.picture
          ? `${place.picture.name}, ${written(place.picture.pixel_m, "length", units)} a pixel. It may be older than what stands there now.`
          : "Something to draw on: a GeoTIFF from above, in any projection, or a scanned map. It stays on this Lark and needs no network."}
      </Typography>
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
        {bring}
        <Button variant="outlined" size="small" onClick={() => setPinning(true)}>
          Pin a scan
        </Button>
        {place.picture && (
          <Button size="small" color="error" onClick={onDrop}>
            Remove picture
          </Button>
        )}
      </Box>
      {pinning && (
        <ScanDialog
          known={known}
          onClose={() => setPinning(false)}
          onLay={async (file, pins) => {
            await sendScan(placeId, file, await flush(), pins);
            onLaid();
            setPinning(false);
          }}
        />
      )}
    </Paper>
  );
}
