import type { components } from "../api/schema";

/**
 * Looking up in field tables, as `core/field_lookup.py` does it (shared cases hold them together): the worst of the
 * nodes around what was read, never better than the whole check.
 */

export type FieldTables = components["schemas"]["FieldTables"];
type Grid = components["schemas"]["Grid"];
type Line = components["schemas"]["Line"];
export type TableKey = components["schemas"]["Key"];
export type TableValue = number | boolean | null;

/** What was read on site: the wind where the tables are for one, and every value that is another than planned. */
export interface TableReading {
  speed_ms: number;
  direction_deg: number;
  gust_ms: number | null;
  changed: Partial<Record<TableKey, TableValue>>;
}

/** How much each check counts: 0 pass, 1 care, 2 not known, 3 fail; and which of them a table was asked about. */
export interface LookedUp {
  statuses: Record<string, number>;
  touched: ReadonlySet<string>;
}

class NotCovered extends Error {}

const SHAPES: TableKey[] = ["flight.distance_m", "flight.height_m", "settings.rth_altitude_m"];
const STRONGEST_MS = 24;
const FAIL = 3;

/** What the tables say at a reading; null where none covers it. */
export function lookUp(tables: FieldTables, reading: TableReading): LookedUp | null {
  try {
    return lookedUp(tables, reading);
  } catch (cause) {
    if (cause instanceof NotCovered) return null;
    throw cause;
  }
}

/** The nodes at, or on both sides of, a value; nodes rise. */
function around(nodes: number[], value: number): number[] {
  const above = nodes.findIndex((node) => node >= value);
  if (above < 0 || value < nodes[0]!) throw new NotCovered();
  return nodes[above] === value ? [above] : [above - 1, above];
}

function lookedUp(tables: FieldTables, reading: TableReading): LookedUp {
  const now = { ...tables.values, ...reading.changed } as Record<TableKey, TableValue>;
  const keys = Object.keys(tables.values) as TableKey[];
  const changed = new Set(keys.filter((key) => now[key] !== tables.values[key]));
  const shaped = SHAPES.filter((key) => changed.has(key));
  if (shaped.length > 1) throw new NotCovered();
  const found = new Map<string, number>();
  const count = (check: string, digit: number) =>
    found.set(check, Math.max(found.get(check) ?? 0, digit));
  const charge = chargeOf(tables, now);
  for (const grid of gridsOf(tables, shaped[0], now)) inGrid(grid, reading, charge, count);
  for (const line of tables.lines) {
    const homeChanged =
      changed.has("settings.home_point_set") && line.key === "settings.satellites";
    const asked = changed.has(line.key) || homeChanged;
    if (asked && (line.home === "any" || line.home === now["settings.home_point_set"]))
      onLine(line, now[line.key], count);
  }
  return {
    statuses: { ...tables.planned, ...Object.fromEntries(found) },
    touched: new Set(found.keys()),
  };
}

/** The charge [%] that would hold as much energy in a battery as warm as planned. */
function chargeOf(tables: FieldTables, now: Record<TableKey, TableValue>): number {
  const charge = now["pack.charge_pct"] as number;
  const temperature = now["pack.temperature_c"];
  if (temperature === tables.values["pack.temperature_c"]) return charge;
  if (typeof temperature !== "number") throw new NotCovered();
  const nodes = tables.usable.map(([at]) => at as number);
  const shares = around(nodes, temperature).map((n) => tables.usable[n]![1] as number);
  return charge * Math.min(...shares);
}

function gridsOf(
  tables: FieldTables,
  key: TableKey | undefined,
  now: Record<TableKey, TableValue>,
): Grid[] {
  const own = tables.shapes.find((shape) => shape.key === null)!.grid;
  if (key === undefined) return [own];
  const ofKey = new Map<number, Grid>([[tables.values[key] as number, own]]);
  for (const shape of tables.shapes)
    if (shape.key === key && shape.value !== null) ofKey.set(shape.value, shape.grid);
  const nodes = [...ofKey.keys()].sort((a, b) => a - b);
  return around(nodes, now[key] as number).map((n) => ofKey.get(nodes[n]!)!);
}

type Count = (check: string, digit: number) => void;

function inGrid(grid: Grid, reading: TableReading, charge: number, count: Count) {
  const charges = grid.charges_pct;
  const turns = grid.directions_deg.length;
  const at = charges.findIndex((node) => node <= charge + 1e-9);
  if (at < 0) throw new NotCovered();
  if (turns === 1) {
    for (const [check, digits] of Object.entries(grid.checks)) count(check, Number(digits[at]));
    return;
  }
  const turn = 360 / turns;
  const top = grid.speeds_ms.at(-1)!;
  // Between two directions the wind may come straighter from ahead than in either of them.
  const speed = reading.speed_ms / Math.cos((turn / 2) * (Math.PI / 180));
  if (speed > top) {
    if (top >= STRONGEST_MS) throw new NotCovered();
    count("wind.steady", FAIL);
    return;
  }
  const speeds = new Set([
    ...around(grid.speeds_ms, reading.speed_ms),
    grid.speeds_ms.findIndex((node) => node >= speed),
  ]);
  const from = (((reading.direction_deg % 360) + 360) % 360) / turn;
  const sides = new Set([Math.floor(from) % turns, Math.ceil(from) % turns]);
  for (const [check, digits] of Object.entries(grid.checks))
    for (const s of speeds)
      for (const d of sides) count(check, Number(digits[(s * turns + d) * charges.length + at]));
  const gusts = gustNodes(grid, reading);
  for (const [check, digits] of Object.entries(grid.gusts))
    for (const s of around(grid.gust_speeds_ms, reading.speed_ms))
      for (const g of gusts) count(check, Number(digits[s * grid.excesses_ms.length + g]));
}

function gustNodes(grid: Grid, { gust_ms, speed_ms }: TableReading): number[] {
  if (gust_ms === null) return [0];
  const excesses = grid.excesses_ms.filter((excess) => excess !== null);
  return around(excesses, Math.max(gust_ms - speed_ms, 0)).map((n) => n + 1);
}

function onLine(line: Line, value: TableValue, count: Count) {
  let nodes: number[];
  if (typeof value === "number") {
    const numbers = line.nodes
      .flatMap((node, n) => (typeof node === "number" ? [{ node, n }] : []))
      .sort((a, b) => a.node - b.node);
    // More satellites than any table asks for are never worse.
    const most = line.key === "settings.satellites" ? numbers.at(-1)!.node : Infinity;
    const at = numbers.map(({ node }) => node);
    nodes = around(at, Math.min(value, most)).map((n) => numbers[n]!.n);
  } else {
    nodes = [line.nodes.indexOf(value)];
    if (nodes[0]! < 0) throw new NotCovered();
  }
  for (const [check, digits] of Object.entries(line.checks))
    for (const n of nodes) count(check, Number(digits[n]));
}
