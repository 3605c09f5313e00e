import Box from "@mui/material/Box";
import useMediaQuery from "@mui/material/useMediaQuery";
import { useTheme } from "@mui/material/styles";
import type { ReactNode } from "react";
import type { Plan, Result } from "../api/client";
import { useParams } from "react-router";
import { useUnits } from "../frame/preferences";
import { Seal } from "../frame/Seal";
import { useOpenStages } from "../saying/open";

/** What every stage of a session has: its heading, and the verdict that stays in view. */
export function StageFrame({
  plan,
  result,
  waiting,
  heading,
  children,
}: {
  plan: Plan;
  result: Result | undefined;
  waiting: boolean;
  heading: ReactNode;
  children: ReactNode;
}) {
  const open = useOpenStages(Number(useParams().sessionId), plan, useUnits());
  const wide = useMediaQuery(useTheme().breakpoints.up("md"), { noSsr: true });
  const head = (
    <Box sx={{ minWidth: 0, px: { xs: 2, md: 0 }, pt: { xs: 1, md: 0 } }}>{heading}</Box>
  );
  return (
    <Box sx={{ px: { xs: 0, md: 2.5 }, pb: 2, maxWidth: 1500 }}>
      <Box
        component="header"
        sx={{
          display: { xs: "block", md: "grid" },
          gridTemplateColumns: "minmax(0,1fr) minmax(0, 500px)",
          gap: 2,
          alignItems: "center",
          position: "sticky",
          top: 0,
          zIndex: 5,
          bgcolor: "background.default",
          py: { md: 1.25 },
          "@media print": { position: "static" },
        }}
      >
        {wide && head}
        <Seal plan={plan} result={result} waiting={waiting} open={open} />
      </Box>
      {!wide && head}
      {children}
    </Box>
  );
}
