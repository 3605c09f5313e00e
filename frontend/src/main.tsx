import "@fontsource-variable/atkinson-hyperlegible-next";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { Problem } from "./api/client";
import { DecisionPage } from "./decisions/DecisionPage";
import { Broken } from "./shell/Broken";
import { Frame } from "./shell/Frame";
import { NotHere } from "./shell/NotHere";
import { PreferencesProvider } from "./shell/preferences";
import { HelpPage } from "./help/HelpPage";
import { GearPage } from "./gear/GearPage";
import { UpkeepPage } from "./gear/UpkeepPage";
import { MinimumsPage } from "./minimums/MinimumsPage";
import { PlacePage } from "./places/PlaceEditor";
import { PlacesPage } from "./places/PlacesPage";
import { FlightPage } from "./logbook/FlightPage";
import { LogbookPage } from "./logbook/LogbookPage";
import { SessionsPage } from "./sessions/SessionsPage";
import { StartPage } from "./start/StartPage";
import { AfterStage } from "./stages/after/AfterStage";
import { FlightStage } from "./stages/flight/FlightStage";
import { PrepareStage } from "./stages/prepare/PrepareStage";
import { ComparePage } from "./stages/plan/compare/ComparePage";
import { PlanStage } from "./stages/plan/PlanStage";
import { SiteStage } from "./stages/site/SiteStage";
import { PreflightStage } from "./stages/preflight/PreflightStage";
import { SessionRoom } from "./stages/SessionRoom";

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
  { path: "plan", element: <PlanStage /> },
  { path: "prepare", element: <PrepareStage /> },
  { path: "site", element: <SiteStage /> },
  { path: "preflight", element: <PreflightStage /> },
  // No server is needed to open the clock, nor what comes after the flight.
  { path: "flight", element: <FlightStage />, handle: { alone: true } },
  { path: "after", element: <AfterStage />, handle: { alone: true } },
  { path: "compare", element: <ComparePage /> },
  { path: "pack", element: moved("prepare") },
  { path: "walkround", element: moved("preflight") },
  { path: "airborne", element: moved("flight") },
];

const ROOM_ROUTES = [
  { index: true, element: <Navigate to="/sessions" replace /> },
  { path: "start", element: <StartPage /> },
  { path: "sessions", element: <SessionsPage /> },
  {
    path: "sessions/:sessionId",
    element: <SessionRoom />,
    children: [{ errorElement: <Broken />, children: STAGE_ROUTES }],
  },
  { path: "sessions/:sessionId/decisions/:decisionId", element: <DecisionPage /> },
  { path: "places", element: <PlacesPage /> },
  { path: "places/:placeId", element: <PlacePage /> },
  { path: "gear", element: <GearPage /> },
  { path: "gear/:itemId/upkeep", element: <UpkeepPage /> },
  { path: "kit", element: <Navigate to="/gear" replace /> },
  { path: "logbook", element: <LogbookPage /> },
  { path: "logbook/:uid", element: <FlightPage /> },
  { path: "minimums", element: <MinimumsPage /> },
  { path: "help/:page?", element: <HelpPage /> },
  { path: "*", element: <NotHere /> },
];

// A page that cannot be drawn leaves the frame around it: the clock, its calls and Emergency stay in reach.
const router = createBrowserRouter([
  {
    path: "/",
    element: <Frame />,
    errorElement: <Broken />,
    children: [{ errorElement: <Broken />, children: ROOM_ROUTES }],
  },
]);

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <PreferencesProvider>
        <RouterProvider router={router} />
      </PreferencesProvider>
    </QueryClientProvider>
  </StrictMode>,
);
