import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { anchorOf, excerpt, readPage, searched } from "../src/help/guide";

const FOLDER = new URL("../../docs/guide/", import.meta.url);
const PAGES = readdirSync(FOLDER)
  .sort((a, b) => a.localeCompare(b, undefined, { numeric: true }))
  .map((file) => readPage(`/${file}`, readFileSync(new URL(file, FOLDER), "utf8")));

describe("the guide", () => {
  it("has a page a stage, in the order of the work", () => {
    expect(PAGES.map((p) => p.title).slice(1, 7)).toEqual([
      "Plan", "Prepare", "Site", "Preflight", "Flight", "After",
    ]); // prettier-ignore
    expect(new Set(PAGES.map((p) => p.key)).size).toBe(PAGES.length);
  });

  it("shows only pictures that there are", () => {
    const there = readdirSync(new URL("../../docs/screenshots/", import.meta.url));
    const shown = PAGES.flatMap((p) => [...p.text.matchAll(/\]\(\.\.\/screenshots\/([^)]+)\)/g)]);
    expect(shown.length).toBeGreaterThan(8);
    expect(shown.map((m) => m[1]).filter((file) => !there.includes(file!))).toEqual([]);
  });

  it("finds all words, in any case, titles first", () => {
    const found = searched(PAGES, "TURN-back charge");
    expect(found.length).toBeGreaterThan(1);
    for (const { page, section } of found)
      expect(`${page.title} ${section.title} ${section.text}`.toLowerCase()).toContain("turn-back");
    expect(searched(PAGES, "pocket")[0]!.section.title).toBe("Pocket card");
    expect(searched(PAGES, "gyroplane")).toEqual([]);
    expect(searched(PAGES, "  ")).toEqual([]);
  });

  it("shows the words around what was found", () => {
    const text = `${"a ".repeat(100)}needle in it ![x](y.png)`;
    expect(excerpt(text, "needle")).toMatch(/^….*needle in it/);
  });

  it("makes addresses out of titles", () => {
    expect(anchorOf("Limits: how much of each is left")).toBe("limits-how-much-of-each-is-left");
  });
});
