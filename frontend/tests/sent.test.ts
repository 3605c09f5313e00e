import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { sent } from "../src/along/sent";

const write = (headers: Record<string, string> = {}) =>
  new Request("http://lark/api/kit", { method: "POST", body: "{}", headers });

describe("a connection that breaks", () => {
  const server = vi.fn<typeof fetch>();
  beforeEach(() => vi.stubGlobal("fetch", server));
  afterEach(() => {
    vi.unstubAllGlobals();
    server.mockReset();
  });
  const breaksOnce = () =>
    server
      .mockRejectedValueOnce(new TypeError("broken"))
      .mockResolvedValueOnce(new Response("done"));

  it("is asked a question again", async () => {
    breaksOnce();
    expect(await (await sent(new Request("http://lark/api/kit"), true)).text()).toBe("done");
  });

  it("is sent a change again, whole, by the number that makes it happen once", async () => {
    breaksOnce();
    const answer = await sent(write({ "Idempotency-Key": "number-1" }), false);
    expect(await answer.text()).toBe("done");
    const again = server.mock.calls[1]![0] as Request;
    expect(again.headers.get("Idempotency-Key")).toBe("number-1");
    expect(await again.text()).toBe("{}");
  });

  it("is not sent a change again that would happen twice", async () => {
    breaksOnce();
    await expect(sent(write(), false)).rejects.toThrow("broken");
    expect(server).toHaveBeenCalledTimes(1);
  });

  it("fails as before where there is no server, and where nobody waits any more", async () => {
    server.mockRejectedValue(new TypeError("broken"));
    await expect(sent(new Request("http://lark/api/kit"), true)).rejects.toThrow("broken");
    expect(server).toHaveBeenCalledTimes(2);
    const gone = AbortSignal.abort();
    await expect(sent(new Request("http://lark/api/kit"), true, gone)).rejects.toThrow();
    expect(server).toHaveBeenCalledTimes(3);
  });
});
