import type { Feature, Place } from "../api/client";
import { reducer, setAt } from "../editing/history";
import { destination, type LatLon } from "../map/local";
import type { Tool } from "../map/roles";

export const reduce = reducer<Place>((place, path, value) => setAt(place, path, value));

/** An id that the place does not have yet. */
export function freshId(place: Place): string {
  const taken = new Set(place.features.map((f) => f.id));
  let n = place.features.length + 1;
  while (taken.has(`f${n}`)) n += 1;
  return `f${n}`;
}

export function round7(p: LatLon): [number, number] {
  return [Number(p.lon.toFixed(7)), Number(p.lat.toFixed(7))];
}

export function drawn(place: Place, tool: Tool, points: LatLon[]): Feature {
  return {
    id: freshId(place),
    role: tool.role,
    name: "",
    shape: tool.shape,
    coordinates: points.map(round7),
    kind: tool.kind ?? null,
    height_m: tool.height ?? 0,
    radius_m: null,
    note: "",
    origin: null,
  };
}

/** The point from which bearings and distances are given: the first take-off point, or the first thing drawn. */
export function originOf(place: Place): LatLon | null {
  const first = place.features.find((f) => f.role === "takeoff") ?? place.features[0];
  const at = first?.coordinates[0];
  return at ? { lon: at[0]!, lat: at[1]! } : null;
}

/** A feature with one of its corners elsewhere. */
export function withCorner(feature: Feature, index: number, to: LatLon): Feature {
  return {
    ...feature,
    coordinates: feature.coordinates.map((c, i) => (i === index ? round7(to) : c)),
  };
}

/** A feature moved as a whole, its first corner to a point. */
export function moved(feature: Feature, from: LatLon, to: LatLon): Feature {
  const [dLon, dLat] = [to.lon - from.lon, to.lat - from.lat];
  return {
    ...feature,
    coordinates: feature.coordinates.map(([lon, lat]) =>
      round7({ lon: lon! + dLon, lat: lat! + dLat }),
    ),
  };
}

/** A point paced out from the origin. */
export function pacedOut(origin: LatLon, bearing: number, distance: number): LatLon {
  return destination(origin, bearing, distance);
}

export function centreOf(feature: Feature): LatLon {
  const n = feature.coordinates.length;
  const sum = feature.coordinates.reduce<[number, number]>(
    (s, [lon, lat]) => [s[0] + lon! / n, s[1] + lat! / n],
    [0, 0],
  );
  return { lon: sum[0], lat: sum[1] };
}
