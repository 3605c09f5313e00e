import { beforeEach, describe, expect, it } from "vitest";
import type { Plan } from "../src/api/client";
import { begin, setAt, type Action, type History } from "../src/editing/history";
import { reduce } from "../src/stages/plan/edit";
import example from "../../examples/example-plan.json";

const plan = example as unknown as Plan;
const NOON = Date.parse("2026-09-26T12:00:00Z");

function after(history: History<Plan>, ...actions: Action<Plan>[]): History<Plan> {
  return actions.reduce(reduce, history);
}

function change(
  path: (string | number)[],
  value: unknown,
  at = NOON,
  drag: number | null = null,
): Action<Plan> {
  return { kind: "change", path, value, at, drag };
}

describe("an edit", () => {
  let history: History<Plan>;
  beforeEach(() => {
    history = begin(plan);
  });

  it("changes one place and shares the rest", () => {
    const next = setAt(plan, ["flight", "height_m"], 25);
    expect(next.flight.height_m).toBe(25);
    expect(next.site).toBe(plan.site);
    expect(plan.flight.height_m).toBe(40);
  });

  it("of a figure that came from a forecast makes it the pilot's own", () => {
    const weather = {
      ...plan.weather,
      provenance: [
        { figure: "winds", source: "A forecast", as_of: null },
        { figure: "kp", source: "A forecast", as_of: null },
      ],
    } as Plan["weather"];
    const blown = after(
      begin({ ...plan, weather }),
      change(["weather", "winds", 0, "speed_ms"], 5),
    );
    expect(blown.document.weather.provenance.map((p) => p.figure)).toEqual(["kp"]);
  });

  it("of the weather makes it current; of anything else does not", () => {
    const blown = after(history, change(["weather", "winds", 0, "speed_ms"], 5));
    expect(blown.document.weather.as_of).toBe("2026-09-26T12:00:00.000Z");
    expect(
      after(history, change(["flight", "height_m"], 5)).document.weather.as_of,
    ).toBeUndefined();
  });

  it("never leaves a gust under its mean wind", () => {
    const blown = after(history, change(["weather", "winds", 0, "speed_ms"], 9));
    expect(blown.document.weather.winds[0]!.gust_ms).toBe(9);
  });

  it("by dragging is one step back", () => {
    const dragged = after(
      history,
      change(["flight", "height_m"], 41, NOON),
      change(["flight", "height_m"], 42, NOON + 50),
      change(["flight", "height_m"], 43, NOON + 100),
      change(["flight", "distance_m"], 90, NOON + 150),
    );
    const once = reduce(dragged, { kind: "undo" });
    expect([once.document.flight.height_m, once.document.flight.distance_m]).toEqual([43, 260]);
    const twice = reduce(once, { kind: "undo" });
    expect(twice.document).toBe(plan);
    expect(reduce(twice, { kind: "undo" })).toBe(twice);
    expect(after(twice, { kind: "redo" }, { kind: "redo" }).document).toEqual(dragged.document);
  });

  it("by dragging slowly is one step back too, and the next drag another", () => {
    const slow = after(
      history,
      change(["flight", "height_m"], 41, NOON, 1),
      change(["flight", "height_m"], 60, NOON + 9000, 1),
      change(["flight", "height_m"], 20, NOON + 20000, 2),
    );
    const once = reduce(slow, { kind: "undo" });
    expect(once.document.flight.height_m).toBe(60);
    expect(reduce(once, { kind: "undo" }).document).toBe(plan);
  });

  it("after a pause is a step of its own, and clears what could be redone", () => {
    const two = after(
      history,
      change(["flight", "height_m"], 41, NOON),
      change(["flight", "height_m"], 42, NOON + 5000),
    );
    const back = reduce(two, { kind: "undo" });
    expect(back.document.flight.height_m).toBe(41);
    const other = reduce(back, change(["flight", "height_m"], 10, NOON + 9000));
    expect(reduce(other, { kind: "redo" })).toBe(other);
  });
});
