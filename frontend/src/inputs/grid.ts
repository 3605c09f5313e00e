import { toPoint } from "mgrs";
import { toLatLon } from "utm";
import type { Position } from "./position";

const BANDS = "[C-HJ-NP-X]";
const MGRS = new RegExp(`^\\d{1,2}${BANDS}[A-HJ-NP-Z]{2}\\d+$`);
const UTM = new RegExp(
  `^(\\d{1,2})\\s*(${BANDS})[\\s,;]+(\\d{6}(?:\\.\\d+)?)\\s*M?E?[\\s,;]+(\\d{5,8}(?:\\.\\d+)?)\\s*M?N?$`,
);
/** Four digits each way: ten metres. A coarser square is no take-off point. */
const LEAST_DIGITS = 8;

/**
 * A position on the military grid ("35VLE8848899335") or in a UTM zone ("35V 388488 6499335"), or null.
 * The letter S alone says either the southern half or a band of the northern one: it is not guessed.
 */
export function readGrid(text: string): Position | null {
  const plain = text.trim().toUpperCase();
  const whole = plain.replace(/\s/g, "");
  try {
    if (MGRS.test(whole)) {
      const digits = /\d+$/.exec(whole)![0].length;
      if (digits < LEAST_DIGITS || digits % 2 === 1) return null;
      const [longitude, latitude] = toPoint(whole);
      return { latitude, longitude };
    }
    const found = UTM.exec(plain);
    if (!found || found[2] === "S") return null;
    return toLatLon(Number(found[3]), Number(found[4]), Number(found[1]), found[2]!);
  } catch {
    return null; // outside of what the grid has
  }
}
