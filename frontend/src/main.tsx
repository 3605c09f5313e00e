import "@fontsource-variable/atkinson-hyperlegible-next";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";
import { Problem } from "./api/client";
import { DecisionPage } from "./decisions/DecisionPage";
import { Broken } from "./frame/Broken";
import { Frame } from "./frame/Frame";
import { NotHere } from "./frame/NotHere";
import { PreferencesProvider } from "./frame/preferences";
import { HelpPage } from "./help/HelpPage";
import { KitPage } from "./kit/KitPage";
import { UpkeepPage } from "./kit/UpkeepPage";
import { MinimumsPage } from "./minimums/MinimumsPage";
import { PlacePage } from "./places/PlaceEditor";
import { PlacesPage } from "./places/PlacesPage";
import { FlightPage } from "./logbook/FlightPage";
import { LogbookPage } from "./logbook/LogbookPage";
import { SessionsPage } from "./sessions/SessionsPage";
import { StartPage } from "./start/StartPage";
import { AfterStage } from "./stages/after/AfterStage";
import { AirborneStage } from "./stages/airborne/AirborneStage";
import { PackStage } from "./stages/pack/PackStage";
import { ComparePage } from "./stages/plan/compare/ComparePage";
import { PlanStage } from "./stages/plan/PlanStage";
import { SiteStage } from "./stages/site/SiteStage";
import { WalkroundStage } from "./stages/walkround/WalkroundStage";
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

const router = createBrowserRouter([
  {
    path: "/",
    element: <Frame />,
    errorElement: <Broken />,
    children: [
      { index: true, element: <Navigate to="/sessions" replace /> },
      { path: "start", element: <StartPage /> },
      { path: "sessions", element: <SessionsPage /> },
      {
        path: "sessions/:sessionId",
        element: <SessionRoom />,
        children: [
          { index: true, element: <Navigate to="plan" replace /> },
          { path: "plan", element: <PlanStage /> },
          { path: "pack", element: <PackStage /> },
          { path: "site", element: <SiteStage /> },
          { path: "walkround", element: <WalkroundStage /> },
          // No server is needed to open the clock, nor what comes after the flight.
          { path: "airborne", element: <AirborneStage />, handle: { alone: true } },
          { path: "after", element: <AfterStage />, handle: { alone: true } },
          { path: "compare", element: <ComparePage /> },
        ],
      },
      { path: "sessions/:sessionId/decisions/:decisionId", element: <DecisionPage /> },
      { path: "places", element: <PlacesPage /> },
      { path: "places/:placeId", element: <PlacePage /> },
      { path: "kit", element: <KitPage /> },
      { path: "kit/:itemId/upkeep", element: <UpkeepPage /> },
      { path: "logbook", element: <LogbookPage /> },
      { path: "logbook/:uid", element: <FlightPage /> },
      { path: "minimums", element: <MinimumsPage /> },
      { path: "help", element: <HelpPage /> },
      { path: "*", element: <NotHere /> },
    ],
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
