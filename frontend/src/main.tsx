import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import "@fontsource-variable/atkinson-hyperlegible-next";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { Problem } from "./api/client";
import { PAGES, whilePagesCome } from "./pages";
import { Broken } from "./shell/Broken";
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

/** Addresses that were used before the stages had their names. */
const moved = (to: string) => <Navigate to={`../${to}`} relative="path" replace />;

const STAGE_ROUTES = [
  { index: true, element: <Navigate to="plan" replace /> },
  { path: "plan", lazy: PAGES.PlanStage },
  { path: "prepare", lazy: PAGES.PrepareStage },
  { path: "site", lazy: PAGES.SiteStage },
  { path: "preflight", lazy: PAGES.PreflightStage },
  // No server is needed to open the clock, nor what comes after the flight.
  { path: "flight", lazy: PAGES.FlightStage, handle: { alone: true } },
  { path: "after", lazy: PAGES.AfterStage, handle: { alone: true } },
  { path: "compare", lazy: PAGES.ComparePage },
  { path: "pack", element: moved("prepare") },
  { path: "walkround", element: moved("preflight") },
  { path: "airborne", element: moved("flight") },
];

const ROOM_ROUTES = [
  { index: true, element: <Navigate to="/sessions" replace /> },
  { path: "start", lazy: PAGES.StartPage },
  { path: "sessions", lazy: PAGES.SessionsPage },
  {
    path: "sessions/:sessionId",
    lazy: PAGES.SessionRoom,
    children: [{ errorElement: <Broken />, children: STAGE_ROUTES }],
  },
  { path: "sessions/:sessionId/decisions/:decisionId", lazy: PAGES.DecisionPage },
  { path: "places", lazy: PAGES.PlacesPage },
  { path: "places/:placeId", lazy: PAGES.PlacePage },
  { path: "gear", lazy: PAGES.GearPage },
  { path: "gear/:itemId/upkeep", lazy: PAGES.UpkeepPage },
  { path: "kit", element: <Navigate to="/gear" replace /> },
  { path: "logbook", lazy: PAGES.LogbookPage },
  { path: "logbook/:uid", lazy: PAGES.FlightPage },
  { path: "minimums", lazy: PAGES.MinimumsPage },
  { path: "help/:page?", lazy: PAGES.HelpPage },
  { path: "*", element: <NotHere /> },
];

/** While the first page comes: the place where it will stand. */
function Opening() {
  return <Waiting what="Lark" />;
}

// A page that cannot be drawn leaves the frame around it: the clock, its calls and Emergency stay in reach.
const router = createBrowserRouter([
  {
    path: "/",
    element: <Frame />,
    HydrateFallback: Opening,
    errorElement: <Broken />,
    children: [{ errorElement: <Broken />, children: ROOM_ROUTES }],
  },
]);

/** The styles that are made as they are needed carry the word that the server's policy asks for. */
const styles = createCache({
  key: "lark",
  nonce: document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content,
});

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
