import { askAhead } from "./api/queries";
import { anyUnsaved } from "./editing/opened";
import { anyAloft } from "./flight/aloft";
import { keptUnits } from "./shell/preferences";

/** Each page comes when it is opened first; what it takes to show a session comes at once. */
export const PAGES = {
  DecisionPage: () => import("./decisions/DecisionPage").then((m) => ({ default: m.DecisionPage })),
  ObserverPage: () => import("./observer/ObserverPage").then((m) => ({ default: m.ObserverPage })),
  SharedPage: () => import("./sharing/SharedPage").then((m) => ({ default: m.SharedPage })),
  PracticePage: () => import("./practice/PracticePage").then((m) => ({ default: m.PracticePage })),
  HomePage: () => import("./homeward/HomePage").then((m) => ({ default: m.HomePage })),
  CallsPage: () => import("./practice/CallsPage").then((m) => ({ default: m.CallsPage })),
  EyePage: () => import("./eye/EyePage").then((m) => ({ default: m.EyePage })),
  DrillsPage: () => import("./drills/DrillsPage").then((m) => ({ default: m.DrillsPage })),
  CasePage: () => import("./practice/CasePage").then((m) => ({ default: m.CasePage })),
  PhonePage: () => import("./access/PhonePage").then((m) => ({ default: m.PhonePage })),
  SignIn: () => import("./access/SignIn").then((m) => ({ default: m.SignIn })),
  HelpPage: () => import("./help/HelpPage").then((m) => ({ default: m.HelpPage })),
  GearPage: () => import("./gear/GearPage").then((m) => ({ default: m.GearPage })),
  UpkeepPage: () => import("./gear/UpkeepPage").then((m) => ({ default: m.UpkeepPage })),
  MinimumsPage: () => import("./minimums/MinimumsPage").then((m) => ({ default: m.MinimumsPage })),
  PlacePage: () => import("./places/PlaceEditor").then((m) => ({ default: m.PlacePage })),
  PlacesPage: () => import("./places/PlacesPage").then((m) => ({ default: m.PlacesPage })),
  ForecastsPage: () =>
    import("./forecasts/ForecastsPage").then((m) => ({ default: m.ForecastsPage })),
  FlightPage: () => import("./logbook/FlightPage").then((m) => ({ default: m.FlightPage })),
  LogbookPage: () => import("./logbook/LogbookPage").then((m) => ({ default: m.LogbookPage })),
  SessionsPage: () => import("./sessions/SessionsPage").then((m) => ({ default: m.SessionsPage })),
  NextSession: () => import("./sessions/NextSession").then((m) => ({ default: m.NextSession })),
  StartPage: () => import("./start/StartPage").then((m) => ({ default: m.StartPage })),
  AfterStage: () => import("./stages/after/AfterStage").then((m) => ({ default: m.AfterStage })),
  FlightStage: () =>
    import("./stages/flight/FlightStage").then((m) => ({ default: m.FlightStage })),
  PrepareStage: () =>
    import("./stages/prepare/PrepareStage").then((m) => ({ default: m.PrepareStage })),
  ComparePage: () =>
    import("./stages/plan/compare/ComparePage").then((m) => ({ default: m.ComparePage })),
  PlanStage: () => import("./stages/plan/PlanStage").then((m) => ({ default: m.PlanStage })),
  SiteStage: () => import("./stages/site/SiteStage").then((m) => ({ default: m.SiteStage })),
  PreflightStage: () =>
    import("./stages/preflight/PreflightStage").then((m) => ({ default: m.PreflightStage })),
  SessionRoom: () => import("./stages/SessionRoom").then((m) => ({ default: m.SessionRoom })),
};

/** A session and the page of its stage are asked for together, and before the frame around them stands. */
export function openAhead(address: string) {
  const [, id, stage = "plan"] = /^\/sessions\/(\d+)(?:\/(\w+))?$/.exec(address) ?? [];
  if (!id) return;
  askAhead(Number(id), keptUnits());
  const name = `${stage[0]!.toUpperCase()}${stage.slice(1)}Stage`;
  if (name in PAGES) PAGES[name as keyof typeof PAGES]().catch(() => undefined);
}

/** What comes later than its page: dialogs, and views of a plan that are not looked at first. */
const LATER = [
  () => import("./shell/LeaveDialog"),
  () => import("./shell/PhoneMenu"),
  () => import("./shell/UnitsDialog"),
  () => import("./shell/ShortcutsDialog"),
  () => import("./drawings/OutAndBack"),
  () => import("./stages/plan/land/LandPanel"),
  () => import("./stages/plan/land/PlanView"),
  () => import("./stages/plan/when/WhenPanel"),
  () => import("./decisions/DecisionDialog"),
];

const SETTLED_MS = 3_000;
/** From here on, what is asked for is for later, and no part of the first view. */
const THE_REST = "lark.rest";
const AGAIN_MS = 30_000;

/** Once the first page stands, the others come too: in the field the server may be gone when one is wanted. */
function fetchTheRest() {
  const later = "requestIdleCallback" in window ? requestIdleCallback : setTimeout;
  const pages = [...Object.values(PAGES), ...LATER];
  const next = () => {
    const page = pages.shift();
    if (!page) return;
    void page().then(
      () => later(next),
      () => {
        pages.push(page);
        setTimeout(next, AGAIN_MS);
      },
    );
  };
  setTimeout(() => {
    performance.mark(THE_REST);
    next();
  }, SETTLED_MS);
}

const RENEWED = "lark.renewed";

/**
 * A page of an earlier build is gone from a server that was renewed: the new one is asked for, once. Never where the
 * server is out of reach, or something is under way here: what is open works on.
 */
function renew() {
  if (sessionStorage.getItem(RENEWED) || anyUnsaved() || anyAloft()) return;
  void fetch("/api/health").then(
    ({ ok }) => {
      if (!ok) return;
      sessionStorage.setItem(RENEWED, "1");
      window.location.reload();
    },
    () => undefined,
  );
}

export function whilePagesCome() {
  window.addEventListener("load", fetchTheRest);
  window.addEventListener("vite:preloadError", renew);
}
