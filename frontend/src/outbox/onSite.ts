import type { Afterwards, Answer, DrillsHere, OnSite } from "../api/client";

/** A session on site with other answers to one of its lists: what follows from them follows. */
export function onSiteWith(
  site: OnSite,
  list: "look_round" | "walkround",
  answerOf: (key: string, now: Answer | null) => Answer | null,
): OnSite {
  const put = <T extends { key: string; answer: Answer | null }>(item: T): T => ({
    ...item,
    answer: answerOf(item.key, item.answer),
  });
  if (list === "look_round") return { ...site, looks: site.looks.map(put) };
  const gates = site.gates.map((gate) => {
    const items = gate.items.map(put);
    const open = items.filter((i) => i.answer === null).length;
    return { ...gate, items, open, stopped: items.some((i) => i.answer?.word === "fault") };
  });
  return { ...site, gates };
}

/** A session's drills with other answers to them. */
export function drillsWith(
  here: DrillsHere,
  answerOf: (drill: string, now: Answer | null) => Answer | null,
): DrillsHere {
  const cards = here.cards.map((card) => ({ ...card, answer: answerOf(card.key, card.answer) }));
  return { ...here, cards };
}

/** When each item was answered. */
export const times = (answers: Record<string, Answer>): Afterwards["said"] =>
  Object.fromEntries(Object.entries(answers).map(([key, answer]) => [key, answer.said_at]));
