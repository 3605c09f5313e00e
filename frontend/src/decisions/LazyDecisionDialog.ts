import { lazy } from "react";

/** The dialog of the launch decision, which comes when it is opened first. */
export const DecisionDialog = lazy(() =>
  import("./DecisionDialog").then((m) => ({ default: m.DecisionDialog })),
);
