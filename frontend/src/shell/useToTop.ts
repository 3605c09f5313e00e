import { useEffect, useRef } from "react";

/** For what takes the place of a long form: it is looked at from its top, and read aloud from there. */
export function useToTop<T extends HTMLElement>(when: unknown = true) {
  const top = useRef<T>(null);
  useEffect(() => {
    if (!when) return;
    top.current?.focus({ preventScroll: true });
    window.scrollTo(0, 0);
  }, [when]);
  return top;
}
