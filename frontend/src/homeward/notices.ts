import { FORCED_PCT, type Flight } from "./flight";
import { deckAt, fogTopM, hypot, padTaken } from "./tables";

/** What a pilot notices without looking for it, the most pressing first; figures speak for themselves. */
export function notices(f: Flight): string[] {
  const { mishap, sheet } = f.flight;
  const since = f.at_s - mishap.at_s;
  const fog = fogTopM(mishap, f.at_s);
  const [deck_x, deck_y] = deckAt(mishap, f.at_s);
  const found: (string | false)[] = [
    f.forced && `Charge under ${FORCED_PCT}%: it lands itself.`,
    !f.control && f.lost_s < 7 && "Lost link: nothing you do reaches it.",
    !f.control && f.lost_s >= 7 && `Lost link. It is set to ${LOST[sheet.lost_link]}.`,
    f.control && !f.picture && "The video stands still.",
    mishap.bird && since >= 0 && since < 40 && f.threat_s < 12 && "A bird dives at the aircraft.",
    padTaken(mishap, f.at_s) && "Somebody is standing on the landing place.",
    mishap.pad_for_s > 0 && since >= mishap.pad_for_s && "The landing place is clear again.",
    fog >= f.z && fog > 3 && f.z > 2 && "The aircraft is in the fog.",
    fog > 3 && fog < f.z && "Fog is rising from the ground.",
    mishap.wind_factor > 1 &&
      since > 20 &&
      since < 140 &&
      "The wind picks up; leaves and grass lie over.",
    hypot(deck_x, deck_y) > 15 && "The boat has drifted off the home point.",
    f.walking && "You are walking into the open.",
    f.doing === "down" && !f.forced && f.z > 1 && "It is coming down.",
  ];
  return found.filter((text) => text !== false);
}

const LOST = { return: "return to home", hover: "hover", land: "land where it is" };
