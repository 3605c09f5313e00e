import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Plan = Schemas["PlanDocument"];
export type Result = Schemas["ResultDocument"];
export type Check = Result["checks"][number];
export type Lever = Check["levers"][number];
export type Energy = NonNullable<Result["energy"]>;
export type Verdict = Result["verdict"];
export type Status = Check["status"];
export type Session = Schemas["SessionOut"];
export type SessionSummary = Schemas["SessionList"]["sessions"][number];
export type DecisionSummary = Schemas["DecisionList"]["decisions"][number];
export type Decision = Schemas["DecisionOut"];
export type PilotsWord = Decision["word"];
export type NewSession = Schemas["NewSession"];
export type Minimums = Schemas["MinimumsOut"];
export type PilotSettings = Minimums["settings"];
export type CheckAbout = Schemas["CheckCatalogue"]["checks"][number];

export type PlaceSummary = Schemas["PlaceList"]["places"][number];
export type OpenedPlace = Schemas["PlaceOut"];
export type Place = OpenedPlace["place"];
export type Feature = Place["features"][number];
export type Role = Feature["role"];
export type Zone = Place["zones"][number];
export type Section = Schemas["SectionOut"];
export type Survey = Schemas["SurveyOut"];
export type Suggestion = Schemas["SuggestionList"]["suggestions"][number];
export type Move = Plan["flight"]["moves"][number];

export interface Refusal {
  key: string;
  given: string;
  allowed: string;
}

/** What the server said went wrong; status 0 when it was out of reach. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly refusals: Refusal[] = [],
  ) {
    super(message);
  }
}

export const client = createClient<paths>({ baseUrl: "/" });

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer, or a Problem thrown. */
export async function take<T>(asking: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await asking;
  } catch (cause) {
    if (cause instanceof DOMException && cause.name === "AbortError") throw cause;
    throw new Problem(0, "Lark's server is out of reach. What you changed is kept here.");
  }
  if (answer.response.ok) return answer.data as T;
  const said = answer.error as { message?: string; refusals?: Refusal[] } | undefined;
  throw new Problem(
    answer.response.status,
    said?.message ?? `The server answered ${answer.response.status}.`,
    said?.refusals ?? [],
  );
}
