/** A flat frame around a point, for pointing and drawing. What is judged is computed by the server. */

export interface LatLon {
  lat: number;
  lon: number;
}

const A = 6378137;
const E2 = 0.00669437999014;
const RAD = Math.PI / 180;

/** Metres to the north and to the east of one degree, at a latitude, on WGS 84. */
function degreeLengths(lat: number): { north: number; east: number } {
  const sin = Math.sin(lat * RAD);
  const w = Math.sqrt(1 - E2 * sin * sin);
  return { north: (RAD * A * (1 - E2)) / w ** 3, east: (RAD * A * Math.cos(lat * RAD)) / w };
}

/** East and north of a point [m]; the lengths of a degree are taken halfway between the two. */
export function toXY(from: LatLon, to: LatLon): { x: number; y: number } {
  const { north, east } = degreeLengths((from.lat + to.lat) / 2);
  const turn = ((to.lon - from.lon + 540) % 360) - 180;
  return { x: turn * east, y: (to.lat - from.lat) * north };
}

export function fromXY(from: LatLon, x: number, y: number): LatLon {
  let lat = from.lat + y / degreeLengths(from.lat).north;
  lat = from.lat + y / degreeLengths((from.lat + lat) / 2).north;
  return { lat, lon: from.lon + x / degreeLengths((from.lat + lat) / 2).east };
}

/** Bearing [°] and distance [m] of a point. */
export function polar(from: LatLon, to: LatLon): { bearing: number; distance: number } {
  const { x, y } = toXY(from, to);
  return { bearing: (Math.atan2(x, y) / RAD + 360) % 360, distance: Math.hypot(x, y) };
}

export function destination(from: LatLon, bearing: number, distance: number): LatLon {
  return fromXY(from, distance * Math.sin(bearing * RAD), distance * Math.cos(bearing * RAD));
}
