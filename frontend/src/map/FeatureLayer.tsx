import type { PathOptions } from "leaflet";
import { useState } from "react";
import { Marker, Polygon, Polyline, Tooltip, useMap, useMapEvents } from "react-leaflet";
import type { Feature, Zone } from "../api/client";
import { useUnits } from "../shell/preferences";
import { written } from "../units/units";
import { useAttribution } from "./attribution";
import { glyphOf, icon } from "./marks";
import { nameOf, ROLES } from "./roles";

type LatLng = [number, number];

export function latLngs(coordinates: number[][]): LatLng[] {
  return coordinates.map(([lon, lat]) => [lat!, lon!]);
}

function style(feature: Feature, chosen: boolean): PathOptions {
  const tone = feature.kind === "wires" ? "var(--stay)" : ROLES[feature.role].tone;
  return {
    color: tone,
    weight: chosen ? 5 : feature.shape === "line" ? 3 : 2,
    dashArray: feature.kind === "wires" ? "2 7" : feature.role === "people" ? "6 5" : undefined,
    fillColor: tone,
    fillOpacity: feature.role === "obstacle" ? 0.45 : feature.role === "water" ? 0.3 : 0.15,
  };
}

/** From far away only what orients has its name beside it; the rest says it when pointed at. */
function labelled(feature: Feature, zoom: number): boolean {
  return zoom >= 17 || feature.role === "subject" || feature.role === "takeoff";
}

/** Everything that is drawn at a place. */
export function FeatureLayer({
  features,
  chosen,
  onChoose,
  named = true,
}: {
  features: Feature[];
  chosen?: string | null;
  onChoose?: (id: string) => void;
  named?: boolean;
}) {
  const units = useUnits();
  const here = useMap();
  const [zoom, setZoom] = useState(() => here.getZoom());
  const map = useMapEvents({ zoomend: () => setZoom(map.getZoom()) });
  useAttribution(
    features.some((f) => f.origin != null) ? "© OpenStreetMap contributors, ODbL" : null,
  );
  return features.map((f) => {
    const height = f.height_m > 0 ? `, ${written(f.height_m, "length", units)}` : "";
    const words = `${nameOf(f)}${f.role === "obstacle" ? height : ""}`;
    const events = onChoose ? { click: () => onChoose(f.id) } : undefined;
    const tip = (
      <Tooltip sticky direction="top">
        {words}
      </Tooltip>
    );
    const key = `${f.id}${chosen === f.id}`;
    const shape = { pathOptions: style(f, chosen === f.id), eventHandlers: events };
    if (f.shape === "area") {
      return (
        <Polygon key={key} positions={latLngs(f.coordinates)} {...shape}>
          {tip}
        </Polygon>
      );
    }
    if (f.shape === "line") {
      return (
        <Polyline key={key} positions={latLngs(f.coordinates)} {...shape}>
          {tip}
        </Polyline>
      );
    }
    const { glyph, tone } = glyphOf(f);
    return (
      <Marker
        key={key}
        position={latLngs(f.coordinates)[0]!}
        icon={icon(glyph, tone, named && labelled(f, zoom) ? nameOf(f) : "", chosen === f.id)}
        title={words}
        alt={words}
        eventHandlers={events ?? {}}
        keyboard={onChoose !== undefined}
      />
    );
  });
}

const ZONE_TONES: Record<Zone["restriction"], string> = {
  prohibited: "var(--stay)",
  authorisation: "var(--stay)",
  conditional: "var(--care)",
  information: "var(--unknown)",
};

export function limitsOf(zone: Zone, length: (m: number) => string): string {
  const from = (ref: string) => (ref === "ground" ? "above the ground" : "above sea level");
  const low =
    zone.lower_m <= 0 && zone.lower_from === "ground"
      ? "the ground"
      : `${length(zone.lower_m)} ${from(zone.lower_from)}`;
  const high =
    zone.upper_m == null
      ? "a limit that is not known"
      : `${length(zone.upper_m)} ${from(zone.upper_from)}`;
  return `from ${low} to ${high}`;
}

export function ZoneLayer({ zones }: { zones: Zone[] }) {
  const units = useUnits();
  return zones.map((z, i) => (
    <Polygon
      key={`${z.name}${i}`}
      positions={z.areas.map((rings) => rings.map(latLngs))}
      pathOptions={{
        color: ZONE_TONES[z.restriction],
        weight: 2,
        dashArray: "10 4 2 4",
        fillOpacity: 0.08,
      }}
    >
      <Tooltip sticky>
        {z.name}: {z.restriction}, {limitsOf(z, (m) => written(m, "length", units))}
      </Tooltip>
    </Polygon>
  ));
}
