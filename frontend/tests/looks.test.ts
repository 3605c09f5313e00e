import { expect, it } from "vitest";
import type { Look, Plan } from "../src/api/client";
import { withLook } from "../src/stages/site/looks";

const plan = {
  site: { seen: ["waves"], people_looked_at: null, sheltered: false, radio_noise: "quiet" },
} as unknown as Plan;
const look = (key: string, effect: Look["effect"]) => ({ key, effect });

it("what was seen counts until it is answered otherwise", () => {
  const birds = withLook(plan, look("birds", "seen"), "yes");
  expect(birds.site.seen).toEqual(["waves", "birds"]);
  expect(withLook(birds, look("birds", "seen"), "yes").site.seen).toEqual(["waves", "birds"]);
  expect(withLook(birds, look("birds", "seen"), "no").site.seen).toEqual(["waves"]);
  expect(withLook(birds, look("birds", "seen"), null).site.seen).toEqual(["waves"]);
});

it("people under the way count, and that nobody is there is the word of the day", () => {
  const people = withLook(plan, look("people", "bearing"), "yes");
  expect(people.site.seen).toContain("people");
  expect(people.site.people_looked_at).toBeNull();
  const nobody = withLook(people, look("people", "bearing"), "no");
  expect(nobody.site.seen).not.toContain("people");
  expect(nobody.site.people_looked_at).toMatch(/^\d{4}-\d\d-\d\d$/);
  expect(withLook(nobody, look("people", "bearing"), null).site.people_looked_at).toBeNull();
});

it("shelter follows the answer, noise stays once it was heard of", () => {
  const sheltered = withLook(plan, look("shelter", "shelter"), "yes");
  expect(sheltered.site.sheltered).toBe(true);
  expect(withLook(sheltered, look("shelter", "shelter"), "no").site.sheltered).toBe(false);
  const noisy = withLook(plan, look("masts", "noise"), "yes");
  expect(noisy.site.radio_noise).toBe("urban");
  expect(withLook(noisy, look("masts", "noise"), null).site.radio_noise).toBe("urban");
});
