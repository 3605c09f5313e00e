import { describe, expect, it } from "vitest";
import fc from "fast-check";
import type { Place, Section } from "../src/api/client";
import { begin } from "../src/editing/history";
import { fallsBelow, gapsOf, lowestGap } from "../src/drawings/section";
import { destination, fromXY, polar, toXY } from "../src/map/local";
import { ROLES, TOOLS } from "../src/map/roles";
import { drawn, freshId, moved, originOf, reduce, withCorner } from "../src/places/placeEdit";
import openapi from "../src/api/openapi.json";

describe("the local frame", () => {
  // Computed with geographiclib 2.1 on WGS 84: from, bearing, distance, to.
  it.each([
    [58.62, 25.08, 240, 262, 58.61882388, 25.07609531],
    [58.62, 25.08, 45, 2000, 58.63269391, 25.1043468],
    [-33.9, 18.4, 170, 1500, -33.91331769, 18.40281657],
    [-16.8, 179.999, 90, 400, -16.79999997, -179.99724759],
  ])("agrees with the geodesic to 3 cm: %d %d", (lat, lon, bearing, distance, lat2, lon2) => {
    const to = destination({ lat, lon }, bearing, distance);
    const off = polar(to, { lat: lat2, lon: lon2 }).distance;
    expect(off).toBeLessThan(0.03);
    const back = polar({ lat, lon }, { lat: lat2, lon: lon2 });
    expect(back.distance).toBeCloseTo(distance, 0);
  });

  it("gives back what it was given", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -80, max: 80, noNaN: true }),
        fc.double({ min: -2000, max: 2000, noNaN: true }),
        fc.double({ min: -2000, max: 2000, noNaN: true }),
        (lat, x, y) => {
          const from = { lat, lon: 25 };
          const there = toXY(from, fromXY(from, x, y));
          expect(Math.hypot(there.x - x, there.y - y)).toBeLessThan(0.01);
        },
      ),
    );
  });
});

const place: Place = {
  name: "Bog",
  features: [
    {
      id: "f2", role: "takeoff", name: "", shape: "point", coordinates: [[25.08, 58.62]],
      kind: null, height_m: 0, radius_m: null, note: "", origin: null,
    },
  ],
  zones: [],
  zones_looked_at: null,
  terrain: null,
  surface: null,
  picture: null,
}; // prettier-ignore

describe("drawing", () => {
  it("gives everything an id of its own", () => {
    expect(freshId(place)).toBe("f3");
    const wood = drawn(place, TOOLS[2]!, [
      { lat: 58.62, lon: 25.08 },
      { lat: 58.621, lon: 25.08 },
      { lat: 58.621, lon: 25.081 },
    ]);
    expect(wood).toMatchObject({ id: "f3", role: "obstacle", kind: "trees", shape: "area" });
    expect(wood.coordinates[1]).toEqual([25.08, 58.621]);
  });

  it("moves a corner, or all of it", () => {
    const line = drawn(place, TOOLS[4]!, [
      { lat: 58.62, lon: 25.08 },
      { lat: 58.63, lon: 25.09 },
    ]);
    expect(withCorner(line, 1, { lat: 58.64, lon: 25.1 }).coordinates).toEqual([
      [25.08, 58.62],
      [25.1, 58.64],
    ]);
    const away = moved(line, { lat: 58.62, lon: 25.08 }, { lat: 58.62, lon: 25.09 });
    expect(away.coordinates.map(([lon]) => lon)).toEqual([25.09, 25.1]);
  });

  it("is undone a step at a time, and a drag is one step", () => {
    let history = begin(place);
    for (const lon of [25.081, 25.082, 25.083]) {
      history = reduce(history, {
        kind: "change",
        path: ["features"],
        value: [withCorner(place.features[0]!, 0, { lat: 58.62, lon })],
        at: 0,
        drag: 7,
      });
    }
    expect(originOf(history.document)?.lon).toBe(25.083);
    expect(originOf(reduce(history, { kind: "undo" }).document)?.lon).toBe(25.08);
  });

  it("knows every role of the document, and shapes that the server takes", () => {
    const schemas = openapi.components.schemas as Record<string, { enum?: string[] }>;
    const roles = Object.entries(schemas).find(([name]) => /(^|\.)Role$/.test(name))?.[1].enum;
    expect(Object.keys(ROLES).sort()).toEqual([...(roles ?? [])].sort());
    for (const tool of TOOLS) expect(ROLES[tool.role].shapes).toContain(tool.shape);
  });
});

describe("the section", () => {
  const section = {
    bearing_deg: 50,
    distance_m: [0, 5, 10, 15, 20],
    ground_m: [0, -3, null, null, 12],
    legal_m: [120, 117, null, null, 132],
    surface_m: [null, null, null, null, null] as (number | null)[],
    line_m: [1.5, 10, 20, 30, 40],
    fresnel_m: [0, 1, 1, 1, 0],
    standing: [
      { kind: "trees", name: "pines", from_m: 10, to_m: 20, foot_m: 0, top_m: 18, loosely: false },
      { kind: "mast", name: "", from_m: 40, to_m: 45, foot_m: 0, top_m: 60, loosely: false },
    ],
    winds: [],
  } as Section;

  it("finds the least clearance of the way home, and over what", () => {
    expect(lowestGap(section, 20, 40)).toEqual({ metres: 22, what: "the pines", at: 10 });
    expect(lowestGap(section, 60, 40)).toEqual({ metres: -20, what: "the mast", at: 40 });
    expect(lowestGap({ ...section, standing: [] }, 20, 40)?.what).toBe("the ground");
    const surface_m = [null, null, 31, null, null];
    expect(lowestGap({ ...section, surface_m }, 20, 40)).toEqual({
      metres: 9,
      what: "the trees or roofs of the surface model",
      at: 10,
    });
  });

  it("names the holes and the fall of the ground", () => {
    expect(gapsOf(section)).toEqual([{ from: 10, to: 15 }]);
    expect(fallsBelow(section, 20)).toBe(-3);
    expect(fallsBelow({ ...section, ground_m: [0, 2, 3, 4, 5] }, 20)).toBe(0);
  });
});
