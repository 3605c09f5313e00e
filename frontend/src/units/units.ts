/** Units in which a pilot reads and types. Everything else stays in SI, degrees Celsius and percent. */

export type SpeedUnit = "ms" | "kmh" | "mph" | "kn";
export type LengthUnit = "m" | "ft";
export type TemperatureUnit = "c" | "f";

export interface Units {
  speed: SpeedUnit;
  length: LengthUnit;
  temperature: TemperatureUnit;
}

export type Quantity =
  | "speed"
  | "length"
  | "temperature"
  | "percent"
  | "angle"
  | "minutes"
  | "decibels"
  | "grams"
  | "hours"
  | "watts"
  | "voltage"
  | "current"
  | "wattHours"
  | "gigahertz"
  | "count";

export const METRIC: Units = { speed: "ms", length: "m", temperature: "c" };

/** The sets that the U key goes through. */
export const PRESETS: Units[] = [
  METRIC,
  { speed: "kmh", length: "m", temperature: "c" },
  { speed: "mph", length: "ft", temperature: "f" },
  { speed: "kn", length: "ft", temperature: "c" },
];

export const SPEED_NAMES: Record<SpeedUnit, string> = {
  ms: "m/s",
  kmh: "km/h",
  mph: "mph",
  kn: "kn",
};
const PER_MS: Record<SpeedUnit, number> = {
  ms: 1,
  kmh: 3.6,
  mph: 3600 / 1609.344,
  kn: 3600 / 1852,
};
const METRES_PER_FOOT = 0.3048;

export function unitName(quantity: Quantity, units: Units): string {
  switch (quantity) {
    case "speed":
      return SPEED_NAMES[units.speed];
    case "length":
      return units.length;
    case "temperature":
      return units.temperature === "f" ? "°F" : "°C";
    case "percent":
      return "%";
    case "angle":
      return "°";
    case "minutes":
      return "min";
    case "decibels":
      return "dB";
    case "grams":
      return "g";
    case "hours":
      return "h";
    case "watts":
      return "W";
    case "voltage":
      return "V";
    case "current":
      return "A";
    case "wattHours":
      return "Wh";
    case "gigahertz":
      return "GHz";
    case "count":
      return "";
  }
}

/** From SI to what is shown. */
export function shown(value: number, quantity: Quantity, units: Units): number {
  if (quantity === "speed") return value * PER_MS[units.speed];
  if (quantity === "length" && units.length === "ft") return value / METRES_PER_FOOT;
  if (quantity === "temperature" && units.temperature === "f") return (value * 9) / 5 + 32;
  return value;
}

/** From what is typed to SI; the inverse of `shown`. */
export function meant(value: number, quantity: Quantity, units: Units): number {
  if (quantity === "speed") return value / PER_MS[units.speed];
  if (quantity === "length" && units.length === "ft") return value * METRES_PER_FOOT;
  if (quantity === "temperature" && units.temperature === "f") return ((value - 32) * 5) / 9;
  return value;
}

const DIGITS: Partial<Record<Quantity, number>> = {
  speed: 1,
  wattHours: 1,
  voltage: 1,
  current: 1,
  gigahertz: 2,
};

export function digitsOf(quantity: Quantity): number {
  return DIGITS[quantity] ?? 0;
}

/** A number as it is read, without its unit; a true minus and grouped thousands. */
export function numeral(value: number, quantity: Quantity, units: Units, digits?: number): string {
  const places = digits ?? digitsOf(quantity);
  const text = shown(value, quantity, units).toLocaleString("en-GB", {
    minimumFractionDigits: places,
    maximumFractionDigits: places,
  });
  const plain = Number(text.replaceAll(",", "")) === 0 ? text.replace("-", "") : text;
  return plain.replace("-", "−");
}

/** Degrees and percent stand close to their number, all other units a space off. */
export function gapBefore(unit: string): string {
  return ["", "°", "%"].includes(unit) ? "" : " ";
}

/** A number with its unit. */
export function written(value: number, quantity: Quantity, units: Units): string {
  const unit = unitName(quantity, units);
  return `${numeral(value, quantity, units)}${gapBefore(unit)}${unit}`;
}

/** A direction, three digits. */
/** A distance that is far, in kilometres or miles. */
export function farWritten(metres: number, units: Units): string {
  const [value, unit] = units.length === "ft" ? [metres / 1609.344, "mi"] : [metres / 1000, "km"];
  return `${Math.round(value)} ${unit}`;
}

export function bearing(degrees: number): string {
  return `${String(((Math.round(degrees) % 360) + 360) % 360).padStart(3, "0")}°`;
}

/** The quantity behind a unit of the result document. */
export function quantityOf(unit: string): Quantity {
  const known: Record<string, Quantity> = {
    "m/s": "speed",
    m: "length",
    "%": "percent",
    dB: "decibels",
    "°": "angle",
    "°C": "temperature",
    h: "hours",
    min: "minutes",
    g: "grams",
    Wh: "wattHours",
    W: "watts",
    GHz: "gigahertz",
    "": "count",
  };
  const found = known[unit];
  if (!found) throw new Error(`no quantity is known for the unit ${unit}`);
  return found;
}

/** A chance as so many in a hundred: never a hundred unless it is certain, never none unless it is. */
export function inHundred(chance: number): number {
  if (chance <= 0 || chance >= 1) return Math.round(chance * 100);
  return Math.min(99, Math.max(1, Math.round(chance * 100)));
}

/** How large something is that is kept or sent: "30 kB", "1.2 MB". */
export const sizeWritten = (bytes: number) =>
  bytes < 1_000_000 ? `${Math.ceil(bytes / 1_000)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
