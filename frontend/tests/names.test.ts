import { describe, expect, it } from "vitest";
import { VERDICT_OF, VERDICT_WORDS, STATUS_WORDS } from "../src/shell/marks";
import { STAGES } from "../src/shell/stages";
import * as names from "../src/stages/plan/names";
import openapi from "../src/api/openapi.json";

type Schema = { enum?: string[] };
const schemas = openapi.components.schemas as Record<string, Schema>;

/** The values that the server knows, from its own document. */
function values(name: string): string[] {
  const found = schemas[`PlanDocument.${name}`] ?? schemas[name];
  if (!found?.enum) throw new Error(`the document has no ${name}`);
  return [...found.enum].sort();
}

describe("every value of the plan document has a word", () => {
  it.each([
    ["Surroundings", names.SURROUNDINGS],
    ["RadioNoise", names.NOISE],
    ["ObstacleKind", names.OBSTACLES],
    ["WindSource", names.SOURCES],
    ["Precipitation", names.PRECIPITATION],
    ["LostLink", names.LOST_LINK],
  ])("%s", (schema, words) => {
    expect(Object.keys(words).sort()).toEqual(values(schema));
    expect(new Set(Object.values(words)).size).toBe(Object.keys(words).length);
  });
});

describe("verdicts", () => {
  it("have a word each, and never one that promises", () => {
    const said = [...Object.values(VERDICT_WORDS), ...Object.values(STATUS_WORDS)].join(" ");
    expect(said).not.toMatch(/legal|safe|good to/i);
    expect(new Set(Object.values(VERDICT_OF))).toEqual(new Set(Object.keys(VERDICT_WORDS)));
  });
});

describe("the path of a session", () => {
  it("is the order of the work, numbered as the keys are", () => {
    expect(STAGES.map((s) => s.number)).toEqual([1, 2, 3, 4, 5, 6]);
    expect(STAGES.map((s) => s.name)).toEqual([
      "Plan",
      "Prepare",
      "Site",
      "Preflight",
      "Flight",
      "After",
    ]);
  });
});
