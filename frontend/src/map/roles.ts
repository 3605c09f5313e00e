import type { Feature, Role } from "../api/client";
import { OBSTACLES } from "../stages/plan/names";

export type Shape = Feature["shape"];

/** What can be drawn, in the order in which a pilot looks round. */
export const ROLES: Record<Role, { name: string; shapes: Shape[]; tone: string }> = {
  takeoff: { name: "Take-off point", shapes: ["point"], tone: "var(--ink)" },
  subject: { name: "Subject", shapes: ["point"], tone: "var(--care)" },
  obstacle: { name: "Obstacle", shapes: ["point", "line", "area"], tone: "var(--ground)" },
  water: { name: "Water", shapes: ["area"], tone: "var(--wind)" },
  people: { name: "People", shapes: ["area", "point", "line"], tone: "var(--stay)" },
  landing: { name: "Landing spot", shapes: ["point"], tone: "var(--launch)" },
  airfield: { name: "Airfield", shapes: ["point"], tone: "var(--stay)" },
  note: { name: "Note", shapes: ["point"], tone: "var(--muted)" },
};

export interface Tool {
  label: string;
  role: Role;
  shape: Shape;
  kind?: Feature["kind"];
  height?: number;
}

/** Ready tools for the things that are drawn most. */
export const TOOLS: Tool[] = [
  { label: "Take-off point", role: "takeoff", shape: "point" },
  { label: "Subject", role: "subject", shape: "point" },
  { label: "Wood", role: "obstacle", shape: "area", kind: "trees", height: 15 },
  { label: "Single tree", role: "obstacle", shape: "point", kind: "trees", height: 15 },
  { label: "Wires between poles", role: "obstacle", shape: "line", kind: "wires", height: 11 },
  { label: "Mast or tower", role: "obstacle", shape: "point", kind: "mast", height: 25 },
  { label: "Building", role: "obstacle", shape: "area", kind: "building", height: 8 },
  { label: "Water", role: "water", shape: "area" },
  { label: "People", role: "people", shape: "area" },
  { label: "Landing spot", role: "landing", shape: "point" },
  { label: "Airfield", role: "airfield", shape: "point" },
  { label: "Note", role: "note", shape: "point" },
];

export function nameOf(feature: Feature): string {
  if (feature.name) return feature.name;
  if (feature.role === "obstacle" && feature.kind) return OBSTACLES[feature.kind];
  return ROLES[feature.role].name;
}
