import { describe, expect, it } from "vitest";
import { placed, type Box, type Label } from "../src/map/labels";

const VIEW = { width: 400, height: 300 };
const at = (x: number, y: number, strong = false): Label => ({
  x, y, reach: 12, width: 80, height: 16, strong,
}); // prettier-ignore
const over = (a: Box, b: Box) =>
  a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom;

describe("names on the plan view", () => {
  it("stand to the right where nothing is in the way", () => {
    expect(placed([at(100, 100)], VIEW)).toEqual([{ left: 114, top: 92, right: 194, bottom: 108 }]);
  });

  it("never lie over one another, however close their marks are", () => {
    const labels = Array.from({ length: 12 }, (_, i) => at(150 + 9 * i, 120 + 7 * (i % 4)));
    const boxes = placed(labels, VIEW).filter((b) => b !== null);
    expect(boxes.length).toBeGreaterThan(4);
    boxes.forEach((a, i) => boxes.slice(i + 1).forEach((b) => expect(over(a, b)).toBe(false)));
  });

  it("give way to those that matter", () => {
    const many = [...Array.from({ length: 9 }, () => at(200, 150)), at(200, 150, true)];
    const found = placed(many, VIEW);
    expect(found[9]).toEqual({ left: 214, top: 142, right: 294, bottom: 158 });
    expect(found.filter((b) => b === null).length).toBe(6);
  });

  it("stay in the view where they can", () => {
    expect(placed([at(380, 100)], VIEW)[0]!.right).toBeLessThan(380);
  });
});
