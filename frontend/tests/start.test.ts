import { expect, it } from "vitest";
import { emptyDraft, labels, withSaid } from "../src/start/draft";

it("calls batteries by letters that no other has", () => {
  expect(labels(3)).toEqual(["A", "B", "C"]);
  expect(labels(3, ["B", "Sunday"])).toEqual(["A", "C", "D"]);
  expect(labels(28).slice(25)).toEqual(["Z", "A2", "B2"]);
});

it("asks for another session after each change, and for the same things of the kit", () => {
  const first = emptyDraft("2026-09-28T08:00");
  const next = withSaid(first, { name: "Wren" });
  expect(next.key).toBe(first.key);
  expect(next.asked).not.toBe(first.asked);
});
