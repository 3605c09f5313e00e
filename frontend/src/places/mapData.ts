import type { Feature, MeasuredHeight } from "../api/client";
import type { MapData } from "../api/places";

export type MapThing = MapData["things"][number];
export type Group = MapThing["group"];

/** What is reviewed together, the most dangerous first. */
export const GROUPS: Record<Group, string> = {
  wires: "Power lines and cableways",
  tall: "Masts, poles, towers, turbines",
  buildings: "Buildings",
  trees: "Woods and trees",
  water: "Water",
  airfields: "Airfields and helipads",
  busy_ways: "Busy roads and railways",
  paths: "Paths and small roads",
  ask: "Places to ask about",
};

export interface GroupCount {
  group: Group;
  count: number;
  /** How many have a height that is only the usual one of its kind. */
  assumed: number;
  /** How many would change nothing: drawn as the map has it already, or changed by the pilot. */
  kept: number;
}

const CHANGES: ReadonlySet<MapThing["state"]> = new Set(["new", "changed"]);

/** The groups that the map has something of. */
export function counts(data: MapData): GroupCount[] {
  return (Object.keys(GROUPS) as Group[])
    .map((group) => {
      const things = data.things.filter((t) => t.group === group);
      return {
        group,
        count: things.length,
        assumed: things.filter((t) => t.feature.origin?.assumed_height_m != null).length,
        kept: things.filter((t) => !CHANGES.has(t.state)).length,
      };
    })
    .filter((g) => g.count > 0);
}

/** What is still to be drawn of the chosen groups; what the pilot changed stays. */
export function taken(data: MapData, groups: ReadonlySet<Group>): Feature[] {
  return data.things
    .filter((t) => groups.has(t.group) && CHANGES.has(t.state))
    .map((t) => t.feature);
}

/** What is drawn, with what comes from the map in place of what came from it before. */
export function merged(drawn: Feature[], fresh: Feature[]): Feature[] {
  const ids = new Set(fresh.map((f) => f.id));
  return [...drawn.filter((f) => !ids.has(f.id)), ...fresh];
}

/** Whether a height is only the usual one of its kind, which nobody has confirmed. */
export function heightAssumed(feature: Feature): boolean {
  return feature.height_m > 0 && feature.origin?.assumed_height_m === feature.height_m;
}

/** The same with its height said: as it stands, or as measured. */
export function withHeight(feature: Feature, height_m: number): Feature {
  const origin = feature.origin && { ...feature.origin, assumed_height_m: null };
  return { ...feature, height_m, origin };
}

/** The features with the heights that a surface model has of some of them. */
export function withHeights(features: Feature[], measured: MeasuredHeight[]): Feature[] {
  const heights = new Map(measured.map((m) => [m.id, m.measured_m]));
  return features.map((f) => {
    const height = heights.get(f.id);
    return height === undefined ? f : withHeight(f, height);
  });
}
