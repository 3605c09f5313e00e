import { describe, expect, it } from "vitest";
import type { Feature, MeasuredHeight } from "../src/api/client";
import type { MapData } from "../src/api/places";
import {
  counts,
  heightAssumed,
  merged,
  taken,
  withHeight,
  withHeights,
  type MapThing,
} from "../src/places/mapData";

const feature = (id: string, more: Partial<Feature> = {}): Feature => ({
  id,
  role: "obstacle",
  name: id,
  shape: "point",
  coordinates: [[25, 58]],
  kind: "mast",
  height_m: 10,
  radius_m: null,
  note: "",
  origin: { source: "OpenStreetMap", digest: "0".repeat(16), assumed_height_m: 10 },
  ...more,
});
const thing = (id: string, group: MapThing["group"], state: MapThing["state"]): MapThing => ({
  feature: feature(id),
  group,
  state,
  distance_m: 1,
});
const data: MapData = {
  attribution: "",
  too_many: 0,
  left_out_first: ["paths"],
  things: [
    thing("a", "wires", "new"),
    thing("b", "wires", "yours"),
    thing("c", "tall", "changed"),
    thing("d", "tall", "same"),
    thing("e", "paths", "new"),
  ],
};

describe("map data", () => {
  it("is counted by groups, the most dangerous first", () => {
    expect(counts(data)).toEqual([
      { group: "wires", count: 2, assumed: 2, kept: 1 },
      { group: "tall", count: 2, assumed: 2, kept: 1 },
      { group: "paths", count: 1, assumed: 1, kept: 0 },
    ]);
  });

  it("leaves what the pilot changed and what was not chosen", () => {
    expect(taken(data, new Set(["wires", "tall"] as const)).map((f) => f.id)).toEqual(["a", "c"]);
  });

  it("takes the place of what came before under the same number", () => {
    const drawn = [feature("mine", { origin: null }), feature("c", { height_m: 3 })];
    expect(merged(drawn, [feature("c")]).map((f) => [f.id, f.height_m])).toEqual([
      ["mine", 10],
      ["c", 10],
    ]);
  });

  it("no longer assumes a height that somebody said, even the same one", () => {
    expect(heightAssumed(feature("a"))).toBe(true);
    expect(heightAssumed(withHeight(feature("a"), 10))).toBe(false);
    expect(heightAssumed(withHeight(feature("a"), 12))).toBe(false);
    expect(heightAssumed(feature("a", { origin: null }))).toBe(false);
  });
});

describe("heights that were measured", () => {
  it("change what is taken and nothing else, and nobody has to confirm them", () => {
    const features = [
      {
        id: "a",
        height_m: 18,
        origin: { source: "s", digest: "0".repeat(16), assumed_height_m: 18 },
      },
      { id: "b", height_m: 12, origin: null },
      { id: "c", height_m: 9, origin: null },
    ] as unknown as Feature[];
    const measured = [
      { id: "a", name: "", kind: "trees", drawn_m: 18, measured_m: 18, known: 1 },
      { id: "b", name: "", kind: "trees", drawn_m: 12, measured_m: 21.5, known: 1 },
    ] as MeasuredHeight[];
    const [a, b, c] = withHeights(features, measured);
    expect(a?.origin?.assumed_height_m).toBeNull();
    expect(b?.height_m).toBe(21.5);
    expect(c).toBe(features[2]);
  });
});
