import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import "@fontsource-variable/atkinson-hyperlegible-next";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { lazy, StrictMode, Suspense, type ComponentType } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { Problem } from "./api/client";
import { useShut } from "./api/shut";
import { openAhead, PAGES, whilePagesCome } from "./pages";
import { Broken } from "./shell/Broken";
import { ShutNote } from "./access/ShutNote";
import { keptFlights, landedEvent } from "./flight/record";
import { Frame } from "./shell/Frame";
import { NotHere } from "./shell/NotHere";
import { Waiting } from "./shell/notes";
import { PreferencesProvider } from "./shell/preferences";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      refetchOnWindowFocus: false,
      // What the server refused it will refuse again; only an unreachable one is worth another try.
      retry: (count, error) => count < 2 && error instanceof Problem && error.status === 0,
      networkMode: "always",
    },
    mutations: { networkMode: "always" },
  },
});

/** A page that comes when it is opened; the address changes at once, the frame around it stands. */
function page(load: () => Promise<{ default: ComponentType }>) {
  const Page = lazy(load);
  return (
    <Suspense fallback={<Waiting what="the page" />}>
      <Page />
    </Suspense>
  );
}

const SIGN_IN = page(PAGES.SignIn);

/** The frame, or the way in for a device that is not paired. A flight in the air is never taken from the screen. */
function Door() {
  const shut = useShut();
  if (shut && !keptFlights().some((flight) => !landedEvent(flight))) return SIGN_IN;
  return (
    <>
      {shut && <ShutNote />}
      <Frame />
    </>
  );
}

/** Addresses that were used before the stages had their names. */
const moved = (to: string) => <Navigate to={`../${to}`} relative="path" replace />;

const STAGE_ROUTES = [
  { index: true, element: <Navigate to="plan" replace /> },
  { path: "plan", element: page(PAGES.PlanStage) },
  { path: "prepare", element: page(PAGES.PrepareStage) },
  { path: "site", element: page(PAGES.SiteStage) },
  { path: "preflight", element: page(PAGES.PreflightStage) },
  // No server is needed to open the clock, nor what comes after the flight.
  { path: "flight", element: page(PAGES.FlightStage), handle: { alone: true } },
  { path: "after", element: page(PAGES.AfterStage), handle: { alone: true } },
  { path: "compare", element: page(PAGES.ComparePage) },
  { path: "drills/:drill?", element: page(PAGES.DrillsPage) },
  { path: "pack", element: moved("prepare") },
  { path: "walkround", element: moved("preflight") },
  { path: "airborne", element: moved("flight") },
];

const ROOM_ROUTES = [
  { index: true, element: <Navigate to="/sessions" replace /> },
  { path: "start", element: page(PAGES.StartPage) },
  { path: "next", element: page(PAGES.NextSession) },
  { path: "sessions", element: page(PAGES.SessionsPage) },
  {
    path: "sessions/:sessionId",
    element: page(PAGES.SessionRoom),
    children: [{ errorElement: <Broken />, children: STAGE_ROUTES }],
  },
  { path: "sessions/:sessionId/decisions/:decisionId", element: page(PAGES.DecisionPage) },
  { path: "observer/:sessionId", element: page(PAGES.ObserverPage) },
  { path: "practice", element: page(PAGES.PracticePage) },
  { path: "practice/home/:seed?", element: page(PAGES.HomePage) },
  { path: "practice/calls/:seed?", element: page(PAGES.CallsPage) },
  { path: "practice/eye", element: page(PAGES.EyePage) },
  { path: "practice/:family/:seed", element: page(PAGES.CasePage) },
  { path: "shared", element: page(PAGES.SharedPage) },
  { path: "places", element: page(PAGES.PlacesPage) },
  { path: "places/:placeId", element: page(PAGES.PlacePage) },
  { path: "gear", element: page(PAGES.GearPage) },
  { path: "gear/:itemId/upkeep", element: page(PAGES.UpkeepPage) },
  { path: "kit", element: <Navigate to="/gear" replace /> },
  { path: "forecasts", element: page(PAGES.ForecastsPage) },
  { path: "logbook", element: page(PAGES.LogbookPage) },
  { path: "logbook/:uid", element: page(PAGES.FlightPage) },
  { path: "phone", element: page(PAGES.PhonePage) },
  { path: "minimums", element: page(PAGES.MinimumsPage) },
  { path: "help/:page?", element: page(PAGES.HelpPage) },
  { path: "*", element: <NotHere /> },
];

// A page that cannot be drawn leaves the frame around it: the clock, its calls and Emergency stay in reach.
const router = createBrowserRouter([
  { path: "/pair", element: SIGN_IN, errorElement: <Broken /> },
  {
    path: "/",
    element: <Door />,
    errorElement: <Broken />,
    children: [{ errorElement: <Broken />, children: ROOM_ROUTES }],
  },
]);

/** The styles that are made as they are needed carry the word that the server's policy asks for. */
const styles = createCache({
  key: "lark",
  nonce: document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content,
});

openAhead(window.location.pathname);

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <CacheProvider value={styles}>
      <QueryClientProvider client={queries}>
        <PreferencesProvider>
          <RouterProvider router={router} />
        </PreferencesProvider>
      </QueryClientProvider>
    </CacheProvider>
  </StrictMode>,
);

whilePagesCome();
