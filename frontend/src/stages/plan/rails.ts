import type { Check } from "../../api/client";
import { gapBefore, quantityOf, numeral, unitName, type Units } from "../../units/units";

/** How far past the wall a bar may be drawn, in shares of the limit. */
export const PAST_WALL = 0.12;

/** Length of a bar, 0 to 1 + PAST_WALL: true up to the wall, and just seen to break through beyond it. */
export function barLength(used: number): number {
  if (used <= 1) return Math.max(used, 0);
  return 1 + PAST_WALL * Math.min((used - 1) / 0.5 + 0.25, 1);
}

/** Value against limit in a pilot's words; digits are added where rounding would hide which is more. */
export function againstLimit(check: Check, units: Units): string {
  if (check.shown) return check.shown;
  if (check.value === null) return "not known";
  const quantity = quantityOf(check.unit);
  const unit = unitName(quantity, units);
  const gap = gapBefore(unit);
  const { limit } = check;
  const value: number = check.value;
  if (limit === null) return `${numeral(value, quantity, units)}${gap}${unit}`;
  let digits = quantity === "speed" ? 1 : 0;
  const same = () =>
    numeral(value, quantity, units, digits) === numeral(limit, quantity, units, digits);
  while (digits < 3 && value !== limit && same()) digits += 1;
  const v = numeral(value, quantity, units, digits);
  const l = numeral(limit, quantity, units, digits);
  return check.bound === "at_least"
    ? `${v}${gap}${unit} (min ${l}${gap}${unit})`
    : `${v} of ${l}${gap}${unit}`;
}
