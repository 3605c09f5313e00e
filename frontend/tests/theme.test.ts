import { describe, expect, it } from "vitest";
import { FIELD_TONES, TONES, type Tones } from "../src/theme/tones";

/** Relative luminance and contrast as WCAG 2.2 defines them. */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5].map((i) => {
    const c = parseInt(hex.slice(i, i + 2), 16) / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
}

function contrast(a: string, b: string): number {
  const [low, high] = [luminance(a), luminance(b)].sort((x, y) => x - y);
  return (high! + 0.05) / (low! + 0.05);
}

describe.each(Object.entries(TONES))("the tones of %s", (_, t: Tones) => {
  const texts = ["ink", "muted", "launch", "care", "stay", "unknown", "wind"] as const;

  it.each(texts)("%s is legible on paper and card (4.5 to 1)", (name) => {
    expect(contrast(t[name], t.paper)).toBeGreaterThanOrEqual(4.5);
    expect(contrast(t[name], t.card)).toBeGreaterThanOrEqual(4.5);
  });

  it.each(["launch", "care", "stay", "unknown"] as const)("words on %s are legible", (name) => {
    expect(contrast(t.onVerdict, t[name])).toBeGreaterThanOrEqual(4.5);
  });

  it("words on the strong tone are legible", () => {
    expect(contrast(t.onStrong, t.strong)).toBeGreaterThanOrEqual(4.5);
  });

  it("a quiet bar stands out from the card", () => {
    expect(contrast(t.quiet, t.card)).toBeGreaterThanOrEqual(2.5);
  });
});

describe.each(Object.entries(FIELD_TONES))("the tones of %s in the field", (name, t: Tones) => {
  const texts = ["ink", "muted", "launch", "care", "stay", "unknown", "wind"] as const;

  it.each(texts)("%s is legible in the sun (7 to 1), on black or on white", (text) => {
    expect([t.paper, t.card]).toEqual(
      name === "dusk" ? ["#000000", "#000000"] : ["#ffffff", "#ffffff"],
    );
    expect(contrast(t[text], t.paper)).toBeGreaterThanOrEqual(7);
  });

  it.each(["launch", "care", "stay", "unknown"] as const)("words on %s too", (verdict) => {
    expect(contrast(t.onVerdict, t[verdict])).toBeGreaterThanOrEqual(7);
  });
});
