import "fake-indexeddb/auto";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { OnSite, Plan, Result } from "../src/api/client";
import { awayNow, reached } from "../src/along/away";
import { fetchOrTakenAlong } from "../src/along/fetching";
import { keyOf } from "../src/along/key";
import { valuesOf, weatherTooOld } from "../src/along/standingIn";
import { allTaken, dropTaken, putTaken, type KeptAnswer } from "../src/along/store";

const AT = "2026-09-27T04:00:00.000Z";

function answer(session: number, method: string, address: string, said: unknown, sent?: unknown) {
  const body = sent === undefined ? null : JSON.stringify(sent);
  const key = keyOf(method, address);
  return { session, key, body, text: JSON.stringify(said), at: AT } satisfies KeptAnswer;
}

const taken = (session: number) => ({
  session,
  title: "Bog",
  takeoff_at: AT,
  revision: 1,
  at: AT,
  bytes: 1,
  missing: [],
});

const asked = (address: string, body?: unknown) =>
  new Request(`http://lark${address}`, {
    method: body === undefined ? "GET" : "POST",
    body: body === undefined ? undefined : JSON.stringify(body),
  });

const json = async (request: Request) => (await fetchOrTakenAlong(request)).json();

const age = { id: "weather.age", value: 2, limit: 6, status: "pass", used: 1 / 3, sentence: "" };
const wind = { id: "wind.mean", value: 3, limit: 9, status: "pass", used: 1 / 3, sentence: "" };
const result = { verdict: "launch", checks: [wind, age] } as unknown as Result;

describe("what was taken along", () => {
  const server = vi.fn<typeof fetch>();
  beforeEach(async () => {
    vi.stubGlobal("fetch", server);
    vi.stubGlobal("window", { location: { pathname: "/sessions/1/plan" } });
    server.mockRejectedValue(new TypeError("no network"));
    reached();
    await putTaken(taken(1), [
      answer(1, "GET", "/api/sessions/1?speed=ms&length=m", { id: 1, plan: {}, result }),
      answer(1, "GET", "/api/sessions", { sessions: [{ id: 1 }, { id: 2 }], total: 2, pages: 1 }),
      answer(1, "POST", "/api/outing", { of: "one" }, { plan: { title: "one" } }),
      answer(1, "POST", "/api/survey", { of: "one" }, { title: "one" }),
    ]);
    await putTaken(taken(3), [
      answer(3, "POST", "/api/outing", { of: "three" }, { plan: { title: "three" } }),
      answer(3, "POST", "/api/survey", { of: "three" }, { title: "three" }),
    ]);
  });
  afterEach(() => {
    vi.unstubAllGlobals();
    server.mockReset();
  });

  it("stands in where the server cannot be reached, and the server comes first", async () => {
    const question = "/api/sessions/1?length=m&speed=ms";
    expect(await json(asked(question))).toMatchObject({ id: 1 });
    expect(awayNow()).toEqual({ since: AT, fit: "as it is" });
    server.mockResolvedValueOnce(Response.json({ id: "fresh", plan: {}, result }));
    expect(await json(asked(question))).toMatchObject({ id: "fresh" });
    expect(awayNow()).toBeNull();
    await json(asked(question));
    expect(awayNow()).not.toBeNull();
    server.mockResolvedValueOnce(new Response("{}"));
    await json(asked("/api/health"));
    expect(awayNow()).toBeNull();
  });

  it("stands in for a proxy that says that nobody is behind it, and never for a refusal", async () => {
    server.mockResolvedValueOnce(new Response("", { status: 502 }));
    expect(await json(asked("/api/sessions/1?speed=ms&length=m"))).toMatchObject({ id: 1 });
    server.mockResolvedValueOnce(new Response("{}", { status: 401 }));
    const refused = await fetchOrTakenAlong(asked("/api/sessions/1?speed=ms&length=m"));
    expect(refused.status).toBe(401);
  });

  it("does not wait for bad reception", async () => {
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
    server.mockImplementation(
      (_, options) =>
        new Promise((_, fail) =>
          options!.signal!.addEventListener("abort", () =>
            fail(new DOMException("", "AbortError")),
          ),
        ),
    );
    const waiting = json(asked("/api/sessions/1?speed=ms&length=m"));
    await vi.waitFor(() => expect(server).toHaveBeenCalled());
    vi.advanceTimersByTime(6_001);
    expect(await waiting).toMatchObject({ id: 1 });
    vi.useRealTimers();
  });

  it("says nothing of a plan that it was not asked for, but for what helps all the same", async () => {
    expect(await json(asked("/api/survey", { title: "three" }))).toEqual({ of: "three" });
    await expect(json(asked("/api/survey", { title: "changed" }))).rejects.toThrow(TypeError);
    expect(awayNow()?.fit).toBe("as it is");
    // Of the session whose pages are open, and it is said that it is not of the plan as it is now.
    expect(await json(asked("/api/outing", { plan: { title: "changed" } }))).toEqual({ of: "one" });
    expect(awayNow()?.fit).toBe("as it was");
  });

  it("does not follow an answer to a question that was asked before the server took something", async () => {
    const item = { key: "arms", answer: null, value: null };
    const site = { looks: [], gates: [{ items: [item], open: 1, stopped: false }] };
    const plan = { title: "one", pack: {}, settings: {} };
    const address = "/api/sessions/1/on-site?speed=ms";
    await putTaken(taken(1), [answer(1, "POST", address, site, { plan })]);
    let old: (answer: Response) => void = () => undefined;
    server.mockImplementationOnce(() => new Promise<Response>((done) => (old = done)));
    const waiting = json(asked(address, { plan }));
    await vi.waitFor(() => expect(server).toHaveBeenCalled());
    const said = { answers: { arms: { word: "done", value: null, note: "", said_at: AT } } };
    server.mockResolvedValueOnce(Response.json(said));
    await fetchOrTakenAlong(
      new Request("http://lark/api/sessions/1/answers/walkround", { method: "PUT", body: "{}" }),
    );
    old(Response.json(site));
    await waiting;
    const shown = (await json(asked(address, { plan }))) as OnSite;
    expect(shown.gates[0]!.items[0]!.answer?.word).toBe("done");
  });

  it("follows what the server takes: what was just done does not go from the screen", async () => {
    const item = { key: "arms", answer: null, value: null };
    const site = { looks: [], gates: [{ items: [item], open: 1, stopped: false }] };
    const plan = { title: "one", pack: {}, settings: {} };
    await putTaken(taken(1), [
      answer(1, "POST", "/api/sessions/1/on-site?speed=ms", site, { plan }),
      answer(1, "GET", "/api/sessions/1?speed=ms", { id: 1, plan, revision: 1, result }),
    ]);
    const said = { answers: { arms: { word: "done", value: null, note: "", said_at: AT } } };
    server.mockResolvedValueOnce(Response.json(said));
    const put = (address: string) =>
      fetchOrTakenAlong(new Request(`http://lark${address}`, { method: "PUT", body: "{}" }));
    await put("/api/sessions/1/answers/walkround");
    {
      const shown = (await json(asked("/api/sessions/1/on-site?speed=ms", { plan }))) as OnSite;
      expect(shown.gates[0]!.items[0]!.answer?.word).toBe("done");
      expect(shown.gates[0]!.open).toBe(0);
    }
    const next = { plan: { ...plan, title: "two" }, revision: 2, changed_at: AT, result };
    server.mockResolvedValueOnce(Response.json(next));
    await put("/api/sessions/1");
    {
      const opened = await json(asked("/api/sessions/1?speed=ms"));
      expect(opened).toMatchObject({ id: 1, revision: 2, plan: { title: "two" } });
    }
    // What it says itself is newer than what was taken along.
    server.mockResolvedValueOnce(Response.json({ id: 1, plan, revision: 3, result }));
    await json(asked("/api/sessions/1?speed=ms"));
    await vi.waitFor(async () =>
      expect(await json(asked("/api/sessions/1?speed=ms"))).toMatchObject({ revision: 3 }),
    );
    // Let go of, it does not come back.
    await dropTaken(1);
    server.mockResolvedValueOnce(Response.json(next));
    await put("/api/sessions/1");
    await expect(json(asked("/api/sessions/1?speed=ms"))).rejects.toThrow(TypeError);
  });

  it("lists a session with its verdict as it has aged", async () => {
    const plan = { takeoff_at: "2099-01-01T00:00:00Z" };
    const line = { id: 1, verdict: "launch", tightest: { label: "Wind", sentence: "fine" } };
    await putTaken(taken(1), [
      answer(1, "GET", "/api/sessions", { sessions: [line], total: 1, pages: 1 }),
      answer(1, "GET", "/api/sessions/1?speed=ms", { id: 1, plan, result }),
    ]);
    const { sessions } = await json(asked("/api/sessions"));
    expect(sessions[0].verdict).toBe("unknown");
    expect(sessions[0].tightest.sentence).toContain("your limit is 6 h");
  });

  it("lists the sessions that are along, and lets go of one whole", async () => {
    expect(await json(asked("/api/sessions"))).toMatchObject({ sessions: [{ id: 1 }], total: 1 });
    await dropTaken(1);
    expect((await allTaken()).map((t) => t.session)).toEqual([3]);
    await expect(json(asked("/api/sessions"))).rejects.toThrow(TypeError);
  });

  it("lets go of an answer whose page was left while one before it was still on its way", async () => {
    const lost: unknown[] = [];
    const losing = (cause: unknown) => void lost.push(cause);
    process.on("unhandledRejection", losing);
    const streams: ReadableStreamDefaultController[] = [];
    server.mockImplementation(async () => {
      return new Response(new ReadableStream({ start: (stream) => void streams.push(stream) }));
    });
    for (let n = 0; n < 2; n += 1) await fetchOrTakenAlong(asked("/api/sessions/1?speed=ms"));
    streams[1]!.error(new DOMException("", "AbortError"));
    await new Promise((done) => setTimeout(done, 20));
    streams[0]!.enqueue(new TextEncoder().encode("{}"));
    streams[0]!.close();
    process.off("unhandledRejection", losing);
    expect(lost).toEqual([]);
  });

  it("never stands in for a change", async () => {
    const put = new Request("http://lark/api/sessions/1", { method: "PUT", body: "{}" });
    await expect(fetchOrTakenAlong(put)).rejects.toThrow(TypeError);
    await expect(fetchOrTakenAlong(asked("/api/sessions/1/decisions", {}))).rejects.toThrow();
  });
});

describe("a verdict that was taken along", () => {
  const plan = { takeoff_at: "2026-09-27T10:00:00Z" } as Plan;
  const at = (hour: number) => new Date(Date.UTC(2026, 8, 27, hour));

  it("stands while its weather is young enough, counted to the take-off at most", () => {
    expect(weatherTooOld(result, plan, AT, at(8))).toBe(result);
    const old = weatherTooOld(result, plan, AT, at(9));
    expect(old.verdict).toBe("unknown");
    expect(old.checks[0]).toMatchObject({ id: "weather.age", status: "unknown", value: 7 });
    const early = { takeoff_at: "2026-09-27T07:30:00Z" } as Plan;
    expect(weatherTooOld(result, early, AT, at(20))).toBe(result);
  });

  it("is never bettered by age", () => {
    const no = { ...result, verdict: "stay" } as Result;
    expect(weatherTooOld(no, plan, AT, at(9)).verdict).toBe("stay");
  });
});

describe("preflight values without the server", () => {
  const before = { pack: { charge_pct: 95 }, settings: { satellites: null } } as Plan;
  const of = (kind: string, now: unknown, status = "pass") =>
    ({ gates: [{ items: [{ value: { kind, now, status, sentence: "" } }] }] }) as unknown as OnSite;
  const value = (site: OnSite) => site.gates[0]!.items[0]!.value!;

  it("keep the server's word where more is never worse, and are not checked otherwise", () => {
    const charged = (charge_pct: number) => ({ ...before, pack: { charge_pct } }) as Plan;
    const site = of("charge_pct", 95);
    expect(value(valuesOf(site, before, charged(95)))).toMatchObject({ now: 95, status: "pass" });
    expect(value(valuesOf(site, before, charged(98)))).toMatchObject({ now: 98, status: "pass" });
    expect(value(valuesOf(site, before, charged(90)))).toMatchObject({
      now: 90,
      status: "unknown",
    });
  });

  it("say nothing good of a plan that was changed elsewhere", () => {
    const site = of("charge_pct", 95);
    const known = {
      ...before,
      evidence: { "pack.charge_pct": { how: "typed" } },
    } as unknown as Plan;
    expect(value(valuesOf(site, before, known)).status).toBe("pass");
    const windy = { ...before, weather: { winds: [{ speed_ms: 9 }] } } as unknown as Plan;
    expect(value(valuesOf(site, before, windy)).status).toBe("unknown");
    expect(value(valuesOf(of("charge_pct", 95, "fail"), before, windy)).status).toBe("fail");
  });

  it("are as the aircraft says where they are yes or no", () => {
    const site = of("home_point_set", null, "unknown");
    const set = (home_point_set: boolean) => ({ ...before, settings: { home_point_set } }) as Plan;
    expect(value(valuesOf(site, before, set(true))).status).toBe("pass");
    expect(value(valuesOf(site, before, set(false))).status).toBe("fail");
  });
});
