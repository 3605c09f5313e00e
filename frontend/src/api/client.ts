import createClient from "openapi-fetch";
import { fetchOrTakenAlong } from "../along/fetching";
import type { components, paths } from "./schema";
import { noteStatus } from "./shut";

type Schemas = components["schemas"];
export type Plan = Schemas["PlanDocument"];
/** tables_of: when the field tables were taken along that it was looked up in; only without the server. */
export type Result = Schemas["ResultDocument"] & { tables_of?: string };
export type Check = Result["checks"][number];
export type Fix = Check["levers"][number];
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
export type MeasuredHeight = Schemas["MeasuredHeights"]["measured"][number];
export type Section = Schemas["SectionOut"];
export type Survey = Schemas["SurveyOut"];
export type Suggestion = Schemas["SuggestionList"]["suggestions"][number];
export type Move = Plan["flight"]["moves"][number];

export type Source = Schemas["SourceList"]["sources"][number];
export type OwnSource = Schemas["OwnSourceList"]["sources"][number];
export type SourceDraft = Schemas["SourceIn"]["source"];
export type Comparison = Schemas["ComparisonOut"];
export type SaidByOne = Comparison["said"][number];
export type Watched = Schemas["WatchHistory"]["watched"][number];
export type News = Schemas["NewsList"]["news"][number];
export type ForecastHead = Schemas["ForecastHeadOut"];
export type Report = Schemas["ReportList"]["reports"][number];
export type Windows = Schemas["WindowsOut"];
export type Slot = Windows["slots"][number];
export type Window = Windows["planned"][number];
export type Told = NonNullable<Slot["planned"]>;

export type Kept = Schemas["KitOut"]["items"][number];
export type KitItem = Kept["item"];
export type Aircraft = Plan["aircraft"];
export type Upkeep = Schemas["UpkeepOut"];
export type UpkeepEntry = Upkeep["entries"][number]["entry"];
export type Sheet = Schemas["SheetOut"];
export type Use = Schemas["UsesOut"]["sessions"][number];
export type Ready = Schemas["OutingOut"];
export type Outing = Ready["outing"];
export type Shot = Outing["shots"][number];

export type OnSite = Schemas["OnSiteOut"];
export type DrillsHere = Schemas["DrillsHere"];
export type DrillCard = DrillsHere["cards"][number];
export type DrillsNow = Schemas["DrillsNow"];
export type Look = OnSite["looks"][number];
export type Gate = OnSite["gates"][number];
export type GateItem = Gate["items"][number];
export type Dial = OnSite["card"][number];
export type Answer = NonNullable<Look["answer"]>;
/** What is said to an item of a list; a word of null takes it back. */
export type Said = Pick<Schemas["AnswerIn"], "item" | "word"> &
  Partial<Pick<Schemas["AnswerIn"], "value" | "note">>;

export type Devices = Schemas["DevicesOut"];
export type AircraftHeard = NonNullable<Devices["aircraft"]>;

export type Airborne = Schemas["AirborneOut"];
export type Observed = Schemas["ObservedOut"];
export type FlightCard = NonNullable<Airborne["card"]>;
export type Emergency = Airborne["emergencies"][number];
export type FlightEvent = Schemas["EventsIn"]["events"][number];
export type Flight = Schemas["LogbookOut"]["flights"][number];
export type FlightEntry = Flight["entry"];
export type OpenedFlight = Schemas["OpenedFlight"];
export type Afterwards = Schemas["AfterOut"];
export type Logbook = Schemas["LogbookOut"];
export type LogbookSummary = Schemas["SummaryOut"];
export type FlightTrack = Schemas["TrackOut"];
export type TrackTable = Schemas["TableOut"];
export type Offers = Schemas["OffersOut"];
export type Offer = Offers["offers"][number];

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

/** Answers that are not about what was sent: signed out, too slow, too often. The same may be taken another time. */
const NOT_ABOUT_IT: ReadonlySet<number> = new Set([401, 408, 429]);

/** Whether the server will not take a thing however often it is sent; what else fails waits. */
export const isRefused = (cause: unknown): cause is Problem =>
  cause instanceof Problem &&
  cause.status >= 400 &&
  cause.status < 500 &&
  !NOT_ABOUT_IT.has(cause.status);

export const client = createClient<paths>({ baseUrl: "/", fetch: fetchOrTakenAlong });

interface Answered<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer, or a Problem thrown. */
export async function take<T>(asking: Promise<Answered<T>>): Promise<T> {
  let answer: Answered<T>;
  try {
    answer = await asking;
  } catch (cause) {
    if (cause instanceof DOMException && cause.name === "AbortError") throw cause;
    throw new Problem(0, "Can’t reach Lark’s server.");
  }
  if (answer.response.ok) return answer.data as T;
  noteStatus(answer.response.status);
  const said = answer.error as { message?: string; refusals?: Refusal[] } | undefined;
  throw new Problem(
    answer.response.status,
    said?.message ??
      `Server error ${answer.response.status}. Check whether your last change was saved, then try again.`,
    said?.refusals ?? [],
  );
}
