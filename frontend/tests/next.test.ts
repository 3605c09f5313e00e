import { describe, expect, it } from "vitest";
import { nextSession } from "../src/sessions/NextSession";

const NOW = Date.parse("2026-09-27T10:00:00Z");
const at = (id: number, takeoff_at: string) => ({ id, takeoff_at });

describe("the session that a phone's shortcut opens", () => {
  it("is the one being flown, then the next, whatever the order they come in", () => {
    const far = at(1, "2026-09-29T10:00:00Z");
    const soon = at(2, "2026-09-27T13:30:00+02:00");
    const over = at(3, "2026-09-27T03:00:00Z");
    const running = at(4, "2026-09-27T07:00:00Z");
    expect(nextSession([far, over], NOW)).toEqual({ id: 1, stage: "plan" });
    expect(nextSession([far, soon, over], NOW)).toEqual({ id: 2, stage: "site" });
    expect(nextSession([far, soon, running], NOW)).toEqual({ id: 4, stage: "site" });
    expect(nextSession([over], NOW)).toBeNull();
  });
});
