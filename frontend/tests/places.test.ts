import { afterEach, describe, expect, it, vi } from "vitest";
import { Problem, type Feature, type Zone } from "../src/api/client";
import { sendFile } from "../src/api/places";
import { limitsOf } from "../src/map/FeatureLayer";
import { glyphOf } from "../src/map/marks";
import { nameOf } from "../src/map/roles";
import { centreOf, pacedOut } from "../src/places/placeEdit";
import { polar } from "../src/map/local";

// Leaflet looks for a window when it is loaded; these parts of it need none.
vi.mock("leaflet", () => ({ default: { divIcon: (options: object) => ({ options }) } }));
vi.mock("react-leaflet", () => ({}));

const feature = (part: Partial<Feature>): Feature => ({
  id: "f1",
  role: "obstacle",
  name: "",
  shape: "point",
  coordinates: [[25.08, 58.62]],
  kind: "mast",
  height_m: 24,
  radius_m: null,
  note: "",
  origin: null,
  ...part,
});

const zone = (part: Partial<Zone>): Zone => ({
  name: "Z",
  areas: [],
  restriction: "prohibited",
  lower_m: 0,
  lower_from: "ground",
  upper_m: 120,
  upper_from: "ground",
  begins: null,
  ends: null,
  authority: "",
  message: "",
  source: "",
  ...part,
});

const metres = (m: number) => `${m} m`;

describe("names and marks", () => {
  it("calls a thing by its own name, or by what it is", () => {
    expect(nameOf(feature({ name: "lookout" }))).toBe("lookout");
    expect(nameOf(feature({}))).toBe("Mast or tower");
    expect(nameOf(feature({ role: "people", kind: null }))).toBe("People");
  });

  it("gives obstacles the mark of their kind, and the rest that of their role", () => {
    expect(glyphOf(feature({})).glyph).toBe("mast");
    expect(glyphOf(feature({ role: "water", kind: null })).glyph).toBe("water");
  });
});

describe("a zone's limits in words", () => {
  it.each([
    [{}, "from the ground to 120 m above the ground"],
    [{ upper_m: null }, "from the ground to a limit that is not known"],
    [
      { lower_m: 90, upper_m: 600, upper_from: "sea_level" as const },
      "from 90 m above the ground to 600 m above sea level",
    ],
    [
      { lower_m: 0, lower_from: "sea_level" as const },
      "from 0 m above sea level to 120 m above the ground",
    ],
  ])("%j", (part, words) => {
    expect(limitsOf(zone(part), metres)).toBe(words);
  });
});

describe("where things are", () => {
  it("is paced out from the take-off point", () => {
    const origin = { lat: 58.62, lon: 25.08 };
    const back = polar(origin, pacedOut(origin, 235, 60));
    expect(back.bearing).toBeCloseTo(235, 3);
    expect(back.distance).toBeCloseTo(60, 3);
  });

  it("has a middle to be moved by", () => {
    const line = feature({
      shape: "line",
      coordinates: [
        [25, 58],
        [26, 59],
      ],
    });
    expect(centreOf(line)).toEqual({ lon: 25.5, lat: 58.5 });
  });
});

describe("a file that goes up", () => {
  afterEach(() => vi.unstubAllGlobals());
  const file = new File(["x"], "a b.tif");
  const answer = (status: number, body: unknown) =>
    vi.fn(() => Promise.resolve(new Response(JSON.stringify(body), { status })));

  it("goes as bytes, with its name, the revision that was seen, and the projection", async () => {
    const asked = answer(200, { id: 3 });
    vi.stubGlobal("fetch", asked);
    expect(await sendFile(3, "terrain", file, 7, "EPSG:3301")).toEqual({ id: 3 });
    const [address, options] = asked.mock.calls[0] as unknown as [string, RequestInit];
    expect(address).toBe("/api/places/3/terrain?name=a+b.tif&revision=7&crs=EPSG%3A3301");
    expect(options.headers).toEqual({ "Content-Type": "application/octet-stream" });
    expect(options.body).toBe(file);
  });

  it("says what the server refused", async () => {
    const refusals = [{ key: "zones", given: "junk", allowed: "GeoJSON" }];
    vi.stubGlobal("fetch", answer(422, { message: "Not accepted.", refusals }));
    const refused = await sendFile(3, "zones", file, 1, null).catch((e: unknown) => e);
    expect(refused).toBeInstanceOf(Problem);
    expect(refused).toMatchObject({ status: 422, message: "Not accepted.", refusals });
  });

  it("says that nothing came in when the server is out of reach", async () => {
    vi.stubGlobal("fetch", () => Promise.reject(new TypeError("refused")));
    const lost = await sendFile(3, "features", file, 1, null).catch((e: unknown) => e);
    expect(lost).toMatchObject({ status: 0 });
    expect((lost as Problem).message).toContain("Nothing was imported");
  });
});
