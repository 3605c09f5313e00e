import { useRef } from "react";
import { number } from "../shell/device";

/**
 * Headers by which the server knows a request again: a second tap, or a request that is sent again because its answer
 * was lost, does what was asked once. The same question from the same screen has the same key.
 */
export function useOnce(): (asked: unknown) => { "Idempotency-Key": string } {
  const keys = useRef(new Map<string, string>());
  return (asked) => {
    const question = JSON.stringify(asked);
    const key = keys.current.get(question) ?? number();
    keys.current.set(question, key);
    return { "Idempotency-Key": key };
  };
}
