import { describe, expect, it } from "vitest";
import { merged, same } from "../src/editing/merge";

const plan = () => ({
  title: "Lake",
  weather: { temperature_c: 12, winds: [{ speed_ms: 5 }, { speed_ms: 7 }] },
  obstacles: [] as { height_m: number }[],
});

describe("two documents that came from one", () => {
  it("take from each what only it changed", () => {
    const [here, elsewhere] = [plan(), plan()];
    here.title = "Lake at dusk";
    here.weather.winds[1]!.speed_ms = 9;
    elsewhere.weather.temperature_c = 3;
    elsewhere.weather.winds[0]!.speed_ms = 4;
    const { document, clashes } = merged(plan(), here, elsewhere);
    expect(clashes).toEqual([]);
    expect(document).toEqual({
      title: "Lake at dusk",
      weather: { temperature_c: 3, winds: [{ speed_ms: 4 }, { speed_ms: 9 }] },
      obstacles: [],
    });
  });

  it("clash only in the field that both changed to different values", () => {
    const [here, elsewhere] = [plan(), plan()];
    here.weather.temperature_c = 1;
    elsewhere.weather.temperature_c = 2;
    here.title = elsewhere.title = "Same here and there";
    const { document, clashes } = merged(plan(), here, elsewhere);
    expect(clashes).toEqual([{ path: ["weather", "temperature_c"], here: 1, elsewhere: 2 }]);
    expect(document.weather.temperature_c).toBe(1);
    expect(document.title).toBe("Same here and there");
  });

  it("take a list as one field where rows came or went", () => {
    const [here, elsewhere] = [plan(), plan()];
    elsewhere.obstacles.push({ height_m: 20 });
    expect(merged(plan(), here, elsewhere)).toEqual({
      document: { ...plan(), obstacles: [{ height_m: 20 }] },
      clashes: [],
    });
    here.obstacles.push({ height_m: 30 });
    expect(merged(plan(), here, elsewhere).clashes.map((c) => c.path)).toEqual([["obstacles"]]);
  });

  it("lose nothing that one took away and the other left alone", () => {
    type Note = { title: string; note?: string };
    const base: Note = { title: "a", note: "b" };
    expect(merged<Note>(base, { title: "a" }, { title: "c", note: "b" }).document).toEqual({
      title: "c",
    });
  });
});

describe("same", () => {
  it("looks at values, and takes what is absent as undefined", () => {
    expect(same({ a: [1, { b: 2 }] }, { a: [1, { b: 2 }], c: undefined })).toBe(true);
    expect(same({ a: null }, {})).toBe(false);
    expect(same([1], [1, 2])).toBe(false);
  });
});
