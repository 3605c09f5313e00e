import type { PilotsWord } from "../api/client";

export const PILOTS_WORDS: Record<PilotsWord, string> = {
  launch: "Launch",
  wait: "Wait",
  stand_down: "Stand down",
};
