import { beforeEach, describe, expect, test, vi } from "vitest";
import {
  drop,
  isForgetful,
  keep,
  kept,
  keptFrom,
  watchForgetful,
  whereKept,
} from "../src/shell/device";
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
    const forbidden = {
      getItem: no,
      setItem: no,
      removeItem: no,
      get length() {
        return no();
      },
    };
    vi.stubGlobal("localStorage", forbidden);
    let told = 0;
    const stop = watchForgetful(() => (told += 1));
    expect(keep("lark.a", 1)).toBe(false);
    // Nobody says any more that something is kept here.
    expect(isForgetful()).toBe(true);
    expect(whereKept()).toContain("leave this page open");
    vi.stubGlobal("localStorage", new Store());
    expect(keep("lark.a", 1)).toBe(true);
    expect(whereKept()).toBe("It is kept on this device.");
    expect(told).toBe(2);
    stop();
    vi.stubGlobal("localStorage", forbidden);
    expect(kept("lark.a")).toBeNull();
    expect(keptFrom("lark.")).toEqual([]);
    expect(() => drop("lark.a")).not.toThrow();
  });
});
