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
import { MinimumsPage } from "./minimums/MinimumsPage";
import { PlacePage } from "./places/PlaceEditor";
import { PlacesPage } from "./places/PlacesPage";
import { SessionsPage } from "./sessions/SessionsPage";
import { ComparePage } from "./stages/plan/compare/ComparePage";
import { PlanStage } from "./stages/plan/PlanStage";

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
      { path: "sessions", element: <SessionsPage /> },
      { path: "sessions/:sessionId", element: <Navigate to="plan" replace /> },
      { path: "sessions/:sessionId/plan", element: <PlanStage /> },
      { path: "sessions/:sessionId/compare", element: <ComparePage /> },
      { path: "sessions/:sessionId/decisions/:decisionId", element: <DecisionPage /> },
      { path: "places", element: <PlacesPage /> },
      { path: "places/:placeId", element: <PlacePage /> },
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
