import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { bearing, meant, numeral, PRESETS, quantityOf, shown, written } from "../src/units/units";

const quantities = ["speed", "length", "temperature", "percent", "angle"] as const;

describe("units", () => {
  it("come back as they went, in every set", () => {
    fc.assert(
      fc.property(
        fc.double({ min: -500, max: 20_000, noNaN: true }),
        fc.constantFrom(...quantities),
        fc.constantFrom(...PRESETS),
        (value, quantity, units) => {
          const back = meant(shown(value, quantity, units), quantity, units);
          expect(Math.abs(back - value)).toBeLessThan(1e-8 * Math.max(1, Math.abs(value)));
        },
      ),
    );
  });

  it("know the mile, the nautical mile, the foot and Fahrenheit", () => {
    const [, kmh, us, knots] = PRESETS;
    expect(written(10, "speed", kmh!)).toBe("36.0 km/h");
    expect(written(0.44704, "speed", us!)).toBe("1.0 mph");
    expect(written(1852 / 3600, "speed", knots!)).toBe("1.0 kn");
    expect(written(0.3048 * 400, "length", us!)).toBe("400 ft");
    expect(written(-40, "temperature", us!)).toBe("−40 °F");
  });

  it("write thousands, true minus and no minus zero", () => {
    expect(numeral(2549, "length", PRESETS[0]!)).toBe("2,549");
    expect(numeral(-0.2, "temperature", PRESETS[0]!)).toBe("0");
    expect(numeral(-3, "temperature", PRESETS[0]!)).toBe("−3");
  });

  it("write directions with three digits, round the circle", () => {
    expect([0, 7, 359.7, 360, -90].map(bearing)).toEqual(["000°", "007°", "000°", "000°", "270°"]);
  });

  it("refuse a unit that nobody knows", () => {
    expect(() => quantityOf("furlong")).toThrow("furlong");
  });
});
