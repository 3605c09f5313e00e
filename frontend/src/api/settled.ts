import { useEffect, useState } from "react";

/** A value once it has stood still: what is dear to ask for is not asked for at every step of a slider. */
export function useSettled<T>(value: T, ms: number): T {
  const [still, setStill] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setStill(value), ms);
    return () => clearTimeout(timer);
  }, [value, ms]);
  return still;
}
