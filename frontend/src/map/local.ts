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

/** Half the convergence of the meridians between two points: how far north turns from here to halfway there. */
function halfTurn(from: LatLon, to: LatLon): number {
  const across = (((to.lon - from.lon + 540) % 360) - 180) * RAD;
  return (across * Math.sin(((from.lat + to.lat) / 2) * RAD)) / 2;
}

/** East and north of a point [m]; the lengths of a degree are taken halfway between the two. */
export function toXY(from: LatLon, to: LatLon): { x: number; y: number } {
  const { north, east } = degreeLengths((from.lat + to.lat) / 2);
  const across = ((to.lon - from.lon + 540) % 360) - 180;
  const [x, y] = [across * east, (to.lat - from.lat) * north];
  const turn = halfTurn(from, to);
  return {
    x: x * Math.cos(turn) - y * Math.sin(turn),
    y: y * Math.cos(turn) + x * Math.sin(turn),
  };
}

export function fromXY(from: LatLon, x: number, y: number): LatLon {
  let to = from;
  for (let i = 0; i < 3; i++) {
    const turn = halfTurn(from, to);
    const { north, east } = degreeLengths((from.lat + to.lat) / 2);
    to = {
      lat: from.lat + (y * Math.cos(turn) - x * Math.sin(turn)) / north,
      lon: from.lon + (x * Math.cos(turn) + y * Math.sin(turn)) / east,
    };
  }
  return to;
}

/** Bearing [°] and distance [m] of a point. */
export function polar(from: LatLon, to: LatLon): { bearing: number; distance: number } {
  const { x, y } = toXY(from, to);
  return { bearing: (Math.atan2(x, y) / RAD + 360) % 360, distance: Math.hypot(x, y) };
}

export function destination(from: LatLon, bearing: number, distance: number): LatLon {
  return fromXY(from, distance * Math.sin(bearing * RAD), distance * Math.cos(bearing * RAD));
}
