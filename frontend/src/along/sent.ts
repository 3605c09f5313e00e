import { cameBack } from "./away";

const isOffline = () => globalThis.navigator?.onLine === false;

/** Asking it twice does no more than asking it once. */
const repeats = (request: Request, changesNothing: boolean) =>
  changesNothing || request.headers.has("Idempotency-Key");

/**
 * Puts a question; where the connection breaks, once more: a server that is started again holds on to who asks
 * meanwhile. Where there is no server, that fails as quickly as the first time.
 */
export async function sent(
  request: Request,
  changesNothing: boolean,
  signal: AbortSignal = request.signal,
): Promise<Response> {
  if (!repeats(request, changesNothing)) return fetch(request, { signal });
  const again = request.clone();
  try {
    return await fetch(request, { signal });
  } catch (cause) {
    if (signal.aborted || request.signal.aborted || isOffline()) throw cause;
    const answer = await fetch(again, { signal });
    cameBack();
    return answer;
  }
}
