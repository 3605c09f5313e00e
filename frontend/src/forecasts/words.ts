import type { Watched } from "../api/client";
import { VERDICT_WORDS } from "../shell/marks";
import { clock } from "../shell/time";

type Found = Watched["found"];
type LaunchWindow = Found["windows"][number];

const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

const span = (w: LaunchWindow) => `${clock(w.begin)} to ${clock(w.end)}`;

/** What was found, by itself: the verdict at the take-off, and the day's windows. */
export function foundWords(found: Found): string {
  const windows = found.windows.map(span).join(", ");
  const verdict = VERDICT_WORDS[found.verdict].toLowerCase();
  const why = found.verdict === "launch" ? "" : ` (${lower(found.label)})`;
  return `${verdict}${why}; ${windows ? `open ${windows}` : "no launch window that day"}`;
}

/** What has changed since the finding before: the verdict first, then how the window moved. */
export function changeWords(before: Found, found: Found): string {
  // What the pilot changed is no news of a forecast.
  if (before.revision !== found.revision) return `you changed the plan: ${foundWords(found)}`;
  const parts: string[] = [];
  if (before.verdict !== found.verdict)
    parts.push(`now ${VERDICT_WORDS[found.verdict].toLowerCase()}: ${lower(found.label)}`);
  const [old, now] = [before.windows[0], found.windows[0]];
  if (!now) {
    if (old) parts.push("no launch window any more");
  } else if (!old) {
    parts.push(`a window opens, ${span(now)}`);
  } else if (before.windows.length !== found.windows.length) {
    parts.push(`${found.windows.length} windows: ${found.windows.map(span).join(", ")}`);
  } else {
    if (clock(old.end) !== clock(now.end))
      parts.push(
        `closes at ${clock(now.end)} instead of ${clock(old.end)}` +
          (now.closes ? `, ${lower(now.closes)}` : ""),
      );
    if (clock(old.begin) !== clock(now.begin))
      parts.push(`opens at ${clock(now.begin)} instead of ${clock(old.begin)}`);
  }
  return parts.join("; ") || foundWords(found);
}
