/** Positions as people paste them: decimal or sexagesimal, with a point or a comma, with letters or signs. */

import { readGrid } from "./grid";

export interface Position {
  latitude: number;
  longitude: number;
}

const NUMBER = /[-+]?\d+(?:\.\d+)?/g;

/**
 * The position that a text says, or null. "58.62, 25.08", "58,62 25,08", "N 58° 37.2' E 25° 4.8'",
 * "58°37'12\"N 25°04'48\"E", "25.08E 58.62N", "geo:58.62,25.08", "35V 388488 6499335", "35VLE8848899335". Without
 * letters latitude comes first.
 */
export function readPosition(text: string): Position | null {
  const onGrid = readGrid(text);
  if (onGrid) return onGrid;
  const plain = text
    .trim()
    .replace(/^geo:/i, "")
    .split(/[?]/)[0]!
    .toUpperCase()
    .replace(/[−–]/g, "-")
    .replace(/[°º˚'"′″’”‘“:]/g, " ");
  const written = decimalPoints(plain);
  if (!/^[-+\d.,;\sNSEW]+$/.test(written)) return null;
  const halves = split(written);
  if (!halves) return null;
  const [one, other] = halves.map(part);
  if (!one || !other) return null;
  const swapped = one.axis === "longitude" || other.axis === "latitude";
  if (swapped && (one.axis === "latitude" || other.axis === "longitude")) return null;
  const [latitude, longitude] = swapped ? [other.value, one.value] : [one.value, other.value];
  return Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 ? { latitude, longitude } : null;
}

/** Commas between digits are decimal ones where there are two of them and no points. */
function decimalPoints(text: string): string {
  const commas = text.match(/\d,\d/g)?.length ?? 0;
  return commas >= 2 && !text.includes(".") ? text.replace(/(\d),(\d)/g, "$1.$2") : text;
}

function split(text: string): [string, string] | null {
  const letters = [...text.matchAll(/[NSEW]/g)].map((m) => m.index);
  if (letters.length === 2) {
    const first = text.slice(0, letters[0]).search(/\d/) < 0;
    const at = first ? letters[1]! : letters[0]! + 1;
    return [text.slice(0, at), text.slice(at)];
  }
  if (letters.length > 0) return null;
  const parts = text.split(/[,;]/).filter((p) => p.trim() !== "");
  if (parts.length === 2) return [parts[0]!, parts[1]!];
  const numbers = text.match(NUMBER) ?? [];
  if (parts.length !== 1 || numbers.length % 2 === 1 || numbers.length > 6) return null;
  const half = numbers.length / 2;
  return half === 0 ? null : [numbers.slice(0, half).join(" "), numbers.slice(half).join(" ")];
}

function part(text: string): { value: number; axis: keyof Position | null } | null {
  const letter = /[NSEW]/.exec(text)?.[0];
  const numbers = (text.match(NUMBER) ?? []).map(Number);
  const [degrees, minutes = 0, seconds = 0] = numbers;
  if (degrees === undefined || numbers.length > 3) return null;
  if ([minutes, seconds].some((n) => n < 0 || n >= 60)) return null;
  // Degrees with a fraction have no minutes, and minutes with one no seconds.
  if (numbers.slice(0, -1).some((n) => !Number.isInteger(n))) return null;
  const negative = /-\s*\d/.test(text);
  if (negative && letter) return null;
  const size = Math.abs(degrees) + minutes / 60 + seconds / 3600;
  const axis = !letter ? null : "NS".includes(letter) ? "latitude" : "longitude";
  return { value: negative || letter === "S" || letter === "W" ? -size : size, axis };
}

/** A position as Lark writes it. */
export function writtenPosition({ latitude, longitude }: Position): string {
  const one = (n: number, plus: string, minus: string) =>
    `${Math.abs(n).toFixed(5)}° ${n < 0 ? minus : plus}`;
  return `${one(latitude, "N", "S")} ${one(longitude, "E", "W")}`;
}
