import type { LeafletEvent, Marker as LeafletMarker } from "leaflet";
import { useMemo } from "react";
import { Marker } from "react-leaflet";
import type { Feature } from "../api/client";
import { icon } from "../map/marks";
import { centreOf, moved, withCorner } from "./placeEdit";

function at(e: LeafletEvent): { lat: number; lon: number } {
  const { lat, lng } = (e.target as LeafletMarker).getLatLng();
  return { lat, lon: lng };
}

/** What a chosen shape is moved by: a handle on every corner, and one for all of it. */
export function Handles({
  feature,
  onChange,
}: {
  feature: Feature;
  onChange: (f: Feature) => void;
}) {
  const corner = useMemo(() => icon("handle", "var(--ink)"), []);
  const whole = useMemo(() => icon("move", "var(--ink)"), []);
  const centre = centreOf(feature);
  return (
    <>
      {feature.coordinates.map(([lon, lat], i) => (
        <Marker
          key={i}
          position={[lat!, lon!]}
          icon={feature.shape === "point" ? whole : corner}
          draggable
          zIndexOffset={1000}
          title={feature.shape === "point" ? "Drag to move" : `Corner ${i + 1}`}
          alt={feature.shape === "point" ? "Move" : `Corner ${i + 1}`}
          eventHandlers={{ drag: (e) => onChange(withCorner(feature, i, at(e))) }}
        />
      ))}
      {feature.shape !== "point" && (
        <Marker
          position={[centre.lat, centre.lon]}
          icon={whole}
          draggable
          zIndexOffset={1000}
          title="Drag to move all of it"
          alt="Move all of it"
          eventHandlers={{ drag: (e) => onChange(moved(feature, centre, at(e))) }}
        />
      )}
    </>
  );
}
