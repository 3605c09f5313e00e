import { lazy } from "react";

/** Views of a plan that are not looked at first: each comes when its tab is opened. */
export const OutAndBack = lazy(() =>
  import("../../drawings/OutAndBack").then((m) => ({ default: m.OutAndBack })),
);
export const LandPanel = lazy(() =>
  import("./land/LandPanel").then((m) => ({ default: m.LandPanel })),
);
export const Cut = lazy(() => import("./land/Cut").then((m) => ({ default: m.Cut })));
export const WhenPanel = lazy(() =>
  import("./when/WhenPanel").then((m) => ({ default: m.WhenPanel })),
);
export const ShareDialog = lazy(() =>
  import("../../sharing/ShareDialog").then((m) => ({ default: m.ShareDialog })),
);
