import { useEffect } from "react";
import { useLocation, useNavigate, useParams } from "react-router";
import { anyUnsaved } from "../editing/opened";
import { anyAloft } from "../flight/aloft";
import { whereKept } from "./device";
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

/** Why a key that leads elsewhere asks first; null where nothing runs that a slip should not leave. */
function running(pathname: string): string | null {
  if (anyAloft() && pathname.endsWith("/flight"))
    return "A flight is running. The clock and its alerts go on, and a bar leads back here.";
  if (anyUnsaved()) return `Your last change isn’t on the server yet. ${whereKept()}`;
  return null;
}

/** Keys that work on every screen, while nobody is typing and no dialog is open. leaving: asks before going. */
export function useShortcuts(does: {
  units: () => void;
  theme: () => void;
  help: () => void;
  leaving: (why: string, go: () => void) => void;
}) {
  const navigate = useNavigate();
  const { sessionId } = useParams();
  const { pathname } = useLocation();
  useEffect(() => {
    const go = (to: string) => {
      const why = running(pathname);
      if (why) does.leaving(why, () => void navigate(to));
      else void navigate(to);
    };
    const onKey = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || typing(e.target)) return;
      if (document.querySelector('[role="dialog"], [role="listbox"]')) return;
      const stage = STAGES.find((s) => String(s.number) === e.key);
      if (stage) {
        if (sessionId && stage.path) go(`/sessions/${sessionId}/${stage.path}`);
        return;
      }
      switch (e.key) {
        case "n":
          e.preventDefault();
          go("/sessions?new");
          break;
        case "/": {
          e.preventDefault();
          const find = document.getElementById("find");
          if (find) find.focus();
          else go("/sessions");
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
