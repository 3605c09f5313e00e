import { lazy } from "react";

const load = () => import("./DecisionDialog");

/** The dialog of the launch decision, which comes right after the page that opens it. */
export const DecisionDialog = lazy(() => load().then((m) => ({ default: m.DecisionDialog })));

/** Have it here before anybody opens it: in the field the server may be gone by then. */
export const fetchDecisionDialog = () => void load().catch(() => undefined);
