import "leaflet/dist/leaflet.css";
import Box from "@mui/material/Box";
import L from "leaflet";
import { useEffect, useMemo, type ReactNode } from "react";
import { ImageOverlay, MapContainer, ScaleControl, TileLayer, useMap } from "react-leaflet";
import type { OpenedPlace, Place } from "../api/client";
import { NOTHING_UNDER, useMaps, useTiles } from "../api/tiles";
import { useUnits } from "../shell/preferences";
import { useAttribution } from "./attribution";
import { LabelPlacer } from "./LabelPlacer";
import type { LatLon } from "./local";

const mapStyle = {
  position: "relative",
  border: 1,
  borderColor: "divider",
  borderRadius: "12px",
  overflow: "hidden",
  "& .leaflet-container": {
    height: "100%",
    width: "100%",
    background: "var(--land)",
    font: "inherit",
    color: "var(--ink)",
  },
  "& .leaflet-control-scale-line": {
    background: "var(--card)",
    color: "var(--ink)",
    borderColor: "var(--ink)",
    font: "inherit",
    fontSize: 13,
    fontWeight: 700,
    textShadow: "none",
  },
  "& .leaflet-bar a": {
    background: "var(--card)",
    color: "var(--ink)",
    borderColor: "var(--line)",
    width: 44,
    height: 44,
    lineHeight: "42px",
  },
  "& .leaflet-control-attribution": {
    background: "var(--card)",
    color: "var(--ink)",
    opacity: 0.85,
    fontSize: 11,
  },
  "& .leaflet-tooltip": {
    background: "var(--card)",
    color: "var(--ink)",
    borderColor: "var(--line)",
    fontSize: 13,
    "&::before": { display: "none" },
  },
  "& path.leaflet-interactive:focus": { outline: "none" },
  "& .spot": { background: "none", border: 0 },
  "& .spot b": {
    position: "absolute",
    left: 30,
    top: 2,
    whiteSpace: "nowrap",
    fontSize: 13,
    textShadow:
      "0 0 3px var(--card), 0 0 3px var(--card), 0 0 4px var(--card), 0 0 4px var(--card)",
  },
} as const;

/** The plan view's ground: shade of the land, scale, north; tiles only where the pilot set an address. */
export function MapView({
  centre,
  terrain,
  picture,
  fit,
  height,
  label,
  children,
}: {
  centre: LatLon;
  terrain: OpenedPlace["terrain"];
  picture: Place["picture"];
  /** What should be in view when the map opens. */
  fit?: LatLon[];
  height: number | string;
  label: string;
  children: ReactNode;
}) {
  const units = useUnits();
  const bounds = useMemo(() => {
    const points = fit && fit.length > 1 ? fit : null;
    return points && L.latLngBounds(points.map((p) => [p.lat, p.lon]));
    // Only what was there when the map opened: it must not jump while something is dragged.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  return (
    <Box sx={{ ...mapStyle, height, isolation: "isolate" }} role="region" aria-label={label}>
      <MapContainer
        {...(bounds
          ? { bounds, boundsOptions: { padding: [36, 36], maxZoom: 18 } }
          : { center: [centre.lat, centre.lon], zoom: 16 })}
        maxZoom={22}
        zoomSnap={0.25}
        attributionControl={false}
        scrollWheelZoom
        doubleClickZoom={false}
      >
        <Resized />
        <LabelPlacer />
        <Ground />
        {picture && (
          <ImageOverlay
            url={`/api/pictures/${picture.sha256}.jpg`}
            bounds={[
              [picture.south, picture.west],
              [picture.north, picture.east],
            ]}
            opacity={0.8}
          />
        )}
        {/* Over a picture the shade would only darken what it shows by itself. */}
        {terrain && !picture && (
          <ImageOverlay
            url={`/api/terrains/${terrain.sha256}/hillshade.png`}
            bounds={[
              [terrain.south, terrain.west],
              [terrain.north, terrain.east],
            ]}
            opacity={0.55}
          />
        )}
        <ScaleControl metric={units.length === "m"} imperial={units.length === "ft"} />
        {children}
      </MapContainer>
      <North />
    </Box>
  );
}

/** What the pilot laid under every drawing: an archive that Lark keeps, or tiles from an address. */
function Ground() {
  const { archive, address } = useTiles().data ?? NOTHING_UNDER;
  const map = useMaps(archive !== null).data?.find((kept) => kept.digest === archive);
  useAttribution(map?.attribution || null);
  if (map)
    return (
      <TileLayer
        url={`/api/maps/${map.digest}/{z}/{x}/{y}`}
        maxZoom={22}
        minNativeZoom={map.min_zoom}
        maxNativeZoom={map.max_zoom}
      />
    );
  return address && <TileLayer url={address} maxZoom={22} maxNativeZoom={19} />;
}

/** Leaflet must hear when its box changes size. */
function Resized() {
  const map = useMap();
  useEffect(() => {
    const observer = new ResizeObserver(() => map.invalidateSize({ animate: false }));
    observer.observe(map.getContainer());
    return () => observer.disconnect();
  }, [map]);
  return null;
}

function North() {
  return (
    <Box
      component="svg"
      viewBox="0 0 30 40"
      role="img"
      aria-label="North is up"
      sx={{ position: "absolute", right: 8, top: 8, width: 30, height: 40, zIndex: 500 }}
    >
      <path
        d="M15 2l8 20-8-5-8 5z"
        fill="var(--ink)"
        stroke="var(--card)"
        strokeWidth="2"
        paintOrder="stroke"
      />
      <text
        x="15"
        y="37"
        textAnchor="middle"
        fontSize="13"
        fontWeight="700"
        fill="var(--ink)"
        stroke="var(--card)"
        strokeWidth="3"
        paintOrder="stroke"
      >
        N
      </text>
    </Box>
  );
}
