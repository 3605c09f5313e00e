import { useEffect, useRef } from "react";

let made = 0;

/** While something lies over the page, the device's Back closes it and leaves the page as it is. */
export function useBackCloses(open: boolean, close: () => void) {
  const latest = useRef(close);
  useEffect(() => {
    latest.current = close;
  });
  useEffect(() => {
    if (!open) return;
    const mark = ++made;
    // The same address and router's state again: only the mark tells the two entries apart.
    window.history.pushState({ ...window.history.state, over: mark }, "");
    let gone = false;
    const onBack = () => {
      if (window.history.state?.over === mark) return; // something that lay over this was closed
      gone = true;
      latest.current();
    };
    window.addEventListener("popstate", onBack);
    return () => {
      window.removeEventListener("popstate", onBack);
      // Closed in another way, and nobody has gone elsewhere since: the entry goes too.
      if (!gone && window.history.state?.over === mark) window.history.back();
    };
  }, [open]);
}
