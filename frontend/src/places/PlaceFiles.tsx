import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Paper from "@mui/material/Paper";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { lazy, Suspense, useState } from "react";
import { Problem, type Feature, type OpenedPlace, type Place } from "../api/client";
import { lookAtMap, sendFile, type ImportKind, type MapData } from "../api/places";
import { ProblemNote } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { FileButton } from "../inputs/FileButton";
import { limitsOf } from "../map/FeatureLayer";
import { written } from "../units/units";
import { PicturePanel } from "./PicturePanel";
import { MapsDialog } from "./MapsDialog";
import { SurfacePanel } from "./SurfacePanel";

const ShareDialog = lazy(() =>
  import("../sharing/ShareDialog").then((m) => ({ default: m.ShareDialog })),
);

const ACCEPT: Record<ImportKind, string> = {
  terrain: ".tif,.tiff,.asc,.grd,.hgt",
  surface: ".tif,.tiff,.asc,.grd",
  picture: ".tif,.tiff",
  zones: ".json,.geojson,.kml,.kmz",
  features: ".json,.geojson,.kml,.kmz,.gpx",
};

/** Terrain, zones and open formats: what comes in, what goes out. */
export function PlaceFiles({
  opened,
  place,
  flush,
  onLooked,
  onDropZones,
  onDropTerrain,
  onDropSurface,
  onDropPicture,
  onMeasured,
  onImported,
  onMapData,
}: {
  opened: OpenedPlace;
  place: Place;
  flush: () => Promise<number>;
  onLooked: (day: string | null) => void;
  onDropZones: () => void;
  onDropTerrain: () => void;
  onDropSurface: () => void;
  onDropPicture: () => void;
  onMeasured: (features: Feature[]) => void;
  onImported: () => void;
  onMapData: (data: MapData) => void;
}) {
  const units = useUnits();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const [crs, setCrs] = useState("");
  const [asking, setAsking] = useState(false);
  const [sharing, setSharing] = useState(false);
  const length = (m: number) => written(m, "length", units);

  const reading = async (read: () => Promise<void>) => {
    setProblem(null);
    setBusy(true);
    try {
      await read();
    } catch (cause) {
      setProblem(cause instanceof Problem ? cause : new Problem(0, String(cause)));
    } finally {
      setBusy(false);
    }
  };
  const bring = (kind: ImportKind, file: File) =>
    reading(async () => {
      const revision = await flush();
      await sendFile(
        opened.id,
        kind,
        file,
        revision,
        ["terrain", "surface", "picture"].includes(kind) && crs ? crs : null,
      );
      onImported();
    });
  const choose = (kind: ImportKind, words: string) => (
    <FileButton
      variant="outlined"
      size="small"
      disabled={busy}
      words={words}
      accept={ACCEPT[kind]}
      onFile={(file) => void bring(kind, file)}
    />
  );
  const card = { borderRadius: "14px", p: 1.5, mb: 1 };
  const { terrain } = opened;
  return (
    <>
      {problem && <ProblemNote problem={problem} />}
      {busy && (
        <Typography role="status" sx={{ p: 1 }}>
          Reading the file…
        </Typography>
      )}
      <Paper component="section" aria-label="Map data" variant="outlined" sx={card}>
        <Typography variant="h2">Map data</Typography>
        <Typography variant="body2" color="text.secondary" sx={{ mb: 1 }}>
          Let the place draw itself: wires, masts, buildings, woods, water and roads out of an
          OpenStreetMap extract (.osm, .osm.pbf). You choose what is taken.
        </Typography>
        <FileButton
          variant="outlined"
          size="small"
          disabled={busy}
          words="Import map data"
          accept=".osm,.pbf,.xml"
          onFile={(file) =>
            void reading(async () => {
              await flush();
              onMapData(await lookAtMap(opened.id, file));
            })
          }
        />
      </Paper>
      <PicturePanel
        placeId={opened.id}
        place={place}
        bring={choose("picture", "Import a picture")}
        flush={flush}
        onLaid={onImported}
        onDrop={onDropPicture}
      />
      <Paper component="section" aria-label="Terrain" variant="outlined" sx={card}>
        <Typography variant="h2">Terrain</Typography>
        <Typography variant="body2" color="text.secondary">
          {terrain
            ? `${place.terrain?.name}: ${length(terrain.lowest_m ?? 0)} to ${length(terrain.highest_m ?? 0)} above sea level, cells of ${length(place.terrain?.cell_m ?? 0)}.` +
              (terrain.void_share > 0
                ? ` ${(100 * terrain.void_share).toFixed(1)}% has no height data. Lark treats that part as unknown, not as level ground.`
                : "")
            : "No terrain data: Lark assumes level ground. Import a GeoTIFF, ASCII grid or .hgt file."}
        </Typography>
        <TextField
          size="small"
          margin="dense"
          fullWidth
          label="Projection, if the file doesn’t name one"
          placeholder="EPSG:3301"
          value={crs}
          onChange={(e) => setCrs(e.target.value.trim())}
        />
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
          {choose("terrain", "Import a terrain")}
          {terrain && (
            <>
              <Button
                size="small"
                component="a"
                download
                href={`/api/terrains/${terrain.sha256}/terrain.tif`}
              >
                As GeoTIFF
              </Button>
              <Button
                size="small"
                color="error"
                onClick={() => {
                  onDropTerrain();
                  void flush().then(onImported, () => undefined);
                }}
              >
                Remove terrain
              </Button>
            </>
          )}
        </Box>
      </Paper>
      <SurfacePanel
        placeId={opened.id}
        place={place}
        bring={choose("surface", "Import a surface model")}
        onDrop={() => {
          onDropSurface();
          void flush().then(onImported, () => undefined);
        }}
        onMeasured={onMeasured}
        flush={flush}
      />
      <Paper component="section" aria-label="Zones" variant="outlined" sx={card}>
        <Typography variant="h2">Zones</Typography>
        {place.zones.length === 0 && (
          <Typography variant="body2" color="text.secondary">
            None loaded. Import GeoJSON, KML or the European geographical-zones JSON (read as
            published, from memory), or look at your authority’s map.
          </Typography>
        )}
        <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
          {place.zones.slice(0, 30).map((z, i) => (
            <li key={`${z.name}${i}`}>
              <b>{z.name}</b>: {z.restriction}, {limitsOf(z, length)}
              {z.authority ? `. ${z.authority}` : ""}
            </li>
          ))}
        </Box>
        <Typography variant="body2" sx={{ my: 0.5 }}>
          {place.zones_looked_at ? `Looked up on ${place.zones_looked_at}.` : "Not looked up yet."}{" "}
          The authority’s own map decides.
        </Typography>
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }}>
          {choose("zones", "Import zones")}
          <Button size="small" onClick={() => onLooked(new Date().toISOString().slice(0, 10))}>
            I’ve checked the official map today
          </Button>
          {place.zones.length > 0 && (
            <Button size="small" color="error" onClick={onDropZones}>
              Leave them out
            </Button>
          )}
        </Box>
      </Paper>
      <Paper component="section" aria-label="Import and export" variant="outlined" sx={card}>
        <Typography variant="h2">Import and export</Typography>
        <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
          {choose("features", "Import drawings")}
          {(["geojson", "kml", "gpx", "json"] as const).map((form) => (
            <Button
              key={form}
              size="small"
              component="a"
              download
              href={`/api/places/${opened.id}/export.${form}`}
              onClick={() => void flush().catch(() => undefined)}
            >
              {form === "json" ? "Place file" : form.toUpperCase()}
            </Button>
          ))}
        </Box>
        <Button size="small" onClick={() => setSharing(true)}>
          Share with another pilot
        </Button>
        <Button size="small" onClick={() => setAsking(true)}>
          Map under the drawings
        </Button>
      </Paper>
      {sharing && (
        <Suspense>
          <ShareDialog
            what={{ kind: "place", id: opened.id }}
            name={place.name}
            flush={flush}
            onClose={() => setSharing(false)}
          />
        </Suspense>
      )}
      {asking && <MapsDialog onClose={() => setAsking(false)} />}
    </>
  );
}
