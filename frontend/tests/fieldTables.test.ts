import { describe, expect, it } from "vitest";
import { lookUp, type FieldTables, type TableReading } from "../src/along/fieldTables";
import cases from "./fieldTables.cases.json";

describe("field tables on the device", () => {
  it("say what the core looks up in them", () => {
    expect(cases.cases.length).toBeGreaterThan(300);
    let covered = 0;
    for (const { tables, reading, statuses } of cases.cases) {
      const found = lookUp(
        cases.tables[tables] as unknown as FieldTables,
        reading as unknown as TableReading,
      );
      expect(found?.statuses ?? null).toEqual(statuses);
      covered += Number(found !== null);
    }
    expect(covered).toBeGreaterThan(300);
    expect(covered).toBeLessThan(cases.cases.length);
  });
});
