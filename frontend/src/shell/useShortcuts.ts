import { useEffect } from "react";
import { useNavigate, useParams } from "react-router";
import { STAGES } from "./stages";

export const SHORTCUTS: [string, string][] = [
  ["1 – 6", "stage of the session"],
  ["N", "new session"],
  ["/", "find a session"],
  ["U", "next set of units"],
  ["T", "daylight or dusk"],
  ["Ctrl Z", "undo the last change of a plan; with Shift, redo"],
  ["← →", "move a slider"],
  ["↑ ↓, Space", "move along a list, tick an item"],
  ["?", "all shortcuts"],
];

function typing(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  const field = target instanceof HTMLInputElement && !["range", "checkbox"].includes(target.type);
  return field || target instanceof HTMLTextAreaElement || target.isContentEditable;
}

/** Keys that work on every screen, while nobody is typing and no dialog is open. */
export function useShortcuts(does: { units: () => void; theme: () => void; help: () => void }) {
  const navigate = useNavigate();
  const { sessionId } = useParams();
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || typing(e.target)) return;
      if (document.querySelector('[role="dialog"], [role="listbox"]')) return;
      const stage = STAGES.find((s) => String(s.number) === e.key);
      if (stage) {
        if (sessionId && stage.path) void navigate(`/sessions/${sessionId}/${stage.path}`);
        return;
      }
      switch (e.key) {
        case "n":
          e.preventDefault();
          void navigate("/sessions?new");
          break;
        case "/": {
          e.preventDefault();
          const find = document.getElementById("find");
          if (find) find.focus();
          else void navigate("/sessions");
          break;
        }
        case "u":
          does.units();
          break;
        case "t":
          does.theme();
          break;
        case "?":
          does.help();
          break;
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
}
