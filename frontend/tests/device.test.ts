import { beforeEach, describe, expect, test, vi } from "vitest";
import { drop, keep, kept, keptFrom } from "../src/shell/device";
import { Store } from "./store";

describe("what a device keeps", () => {
  beforeEach(() => void vi.stubGlobal("localStorage", new Store()));

  test("is there again, by its name or by how names begin", () => {
    expect(kept("lark.a.1")).toBeNull();
    keep("lark.a.1", { n: 1 });
    keep("lark.a.2", { n: 2 });
    keep("lark.b", { n: 3 });
    expect(kept("lark.a.2")).toEqual({ n: 2 });
    expect(keptFrom("lark.a.")).toEqual([{ n: 1 }, { n: 2 }]);
    drop("lark.a.1");
    expect(keptFrom("lark.a.")).toEqual([{ n: 2 }]);
  });

  test("damaged, is as if it was not there, and keeps nothing else from being read", () => {
    localStorage.setItem("lark.a.1", "{ half");
    keep("lark.a.2", 7);
    expect(kept("lark.a.1")).toBeNull();
    expect(keptFrom("lark.a.")).toEqual([7]);
  });

  test("forbidden or full, breaks nothing and says so", () => {
    const no = () => {
      throw new DOMException("no", "QuotaExceededError");
    };
    vi.stubGlobal("localStorage", {
      getItem: no,
      setItem: no,
      removeItem: no,
      get length() {
        return no();
      },
    });
    expect(keep("lark.a", 1)).toBe(false);
    expect(kept("lark.a")).toBeNull();
    expect(keptFrom("lark.")).toEqual([]);
    expect(() => drop("lark.a")).not.toThrow();
  });
});
