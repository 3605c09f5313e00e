import type { Plan, Survey } from "../api/client";
import type { Units } from "../units/units";
import { movesIn, sectionUpto } from "../stages/plan/land/cutting";

/** What a session needs of the server, as its pages ask for it. */
export interface Question {
  /** What it is for, as the pilot would call it. */
  words: string;
  method: "GET" | "POST";
  address: string;
  body?: unknown;
}

const with_ = (path: string, query: object) =>
  `${path}?${new URLSearchParams(Object.entries(query).map(([k, v]) => [k, String(v)]))}`;

/** The session itself, with its verdict. */
export const sessionQuestion = (id: number, units: Units): Question => ({
  words: "the session",
  method: "GET",
  address: with_(`/api/sessions/${id}`, { ...units }),
});

/** What stands there, for a plan: it tells how far the side view goes. */
export const surveyQuestion = (plan: Plan): Question => ({
  words: "the view from above",
  method: "POST",
  address: "/api/survey",
  body: plan,
});

const READINGS = ["none", "meter", "leaves", "hover"] as const;
/** The field tables of a session, for each kind of reading. The server takes some seconds for each. */
export const tablesQuestions = (id: number): Question[] =>
  READINGS.map((reading) => ({
    words: "field tables",
    method: "GET",
    address: with_(`/api/sessions/${id}/field-tables`, { reading }),
  }));

/** Everything else, for a plan as it stands. */
export function questions(
  id: number,
  plan: Plan,
  units: Units,
  survey: Survey | undefined,
): Question[] {
  const get = (words: string, address: string): Question => ({ words, method: "GET", address });
  const post = (words: string, address: string, body: unknown): Question => ({
    words,
    method: "POST",
    address,
    body,
  });
  const of = `/api/sessions/${id}`;
  const { latitude, longitude, place } = plan.site;
  const at = { latitude, longitude };
  const { bearing_deg } = plan.flight;
  const upto_m = sectionUpto(plan, movesIn(bearing_deg, plan, survey));
  const found = [
    get("the list of sessions", with_("/api/sessions", { ...units, find: "", page: 1 })),
    get("flight clock and emergency steps", with_(`${of}/airborne`, { ...units })),
    get("decisions", `${of}/decisions`),
    get("what the forecasts changed", `${of}/watch`),
    get("news of forecasts", "/api/watch"),
    get("the packing list", `${of}/answers/kit`),
    get("what comes after", `${of}/after`),
    get("gear", "/api/kit"),
    get("minimums", "/api/minimums"),
    get("the logbook", "/api/flights?page=1"),
    get("the logbook's sums", "/api/logbook/summary"),
    get("what was learned", "/api/learning"),
    get("the time zone", with_("/api/time-zone", at)),
    get("forecasts", with_("/api/weather/reports", at)),
    get("forecast services", "/api/weather/sources"),
    get("maps", "/api/settings/tiles"),
    post("checks", with_("/api/check", { ...units, levers: false }), plan),
    post("site and preflight", with_(`${of}/on-site`, { ...units }), { plan }),
    post("drills", with_(`${of}/drills`, { ...units }), { plan }),
    get("what is due of the drills", "/api/drills"),
    post("batteries and subjects", with_("/api/outing", { ...units }), { plan }),
    post("the side view", with_("/api/section", { bearing_deg, upto_m }), plan),
    post("forecasts compared", with_("/api/weather/compare", { ...units }), { plan }),
  ];
  if (!plan.site.indoors)
    found.push(post("launch windows", with_("/api/windows", { ...units }), { plan, report: null }));
  if (place != null)
    for (const also_deleted of [true, false])
      found.push(get("the place", with_(`/api/places/${place}`, { also_deleted })));
  return found;
}
