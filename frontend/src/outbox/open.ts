import type { OnSite, Plan } from "../api/client";
import type { Units } from "../units/units";
import { useOnSite } from "./lists";

/** What nobody has answered yet at a stage; said: under which name the pilot's word on all of it is kept. */
export interface OpenStage {
  said: "open.site" | "open.preflight";
  name: string;
  questions: string[];
}

/** What is open of a session on site, by stage; nothing of a stage that is answered whole. */
export function openStages(site: OnSite | undefined): OpenStage[] {
  if (!site) return [];
  const looks = site.looks.filter((look) => look.answer === null).map((look) => look.question);
  const items = site.gates.flatMap((gate) =>
    gate.items.filter((item) => item.answer === null).map((item) => item.text),
  );
  const stages: OpenStage[] = [
    { said: "open.site", name: "site", questions: looks },
    { said: "open.preflight", name: "preflight", questions: items },
  ];
  return stages.filter((stage) => stage.questions.length > 0);
}

/** The same for the plan as it stands in this window. */
export function useOpenStages(sessionId: number, plan: Plan, units: Units): OpenStage[] {
  return openStages(useOnSite(sessionId, plan, units).data);
}
