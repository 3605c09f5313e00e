import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { visuallyHidden } from "@mui/utils";
import { startTransition, useEffect, useState, type ReactNode } from "react";
import type { Plan, Result } from "../api/client";
import { useParams } from "react-router";
import { useUnits } from "../shell/preferences";
import { Waiting } from "../shell/notes";
import { SaveNote } from "../shell/SaveNote";
import { FoldedSeal, Seal } from "../shell/Seal";
import { useWide } from "../shell/useWide";
import { useOpenStages } from "../outbox/open";
import { useRoom } from "./SessionRoom";

/** Whether a stage stood in this window before. */
let stood = false;

/** The first stage of a window shows its verdict first: a hundred fields take a slow phone a second. */
function useVerdictFirst(): boolean {
  const [all, setAll] = useState(stood);
  useEffect(() => {
    stood = true;
    startTransition(() => setAll(true));
  }, []);
  return all;
}

/**
 * What every stage of a session has: its heading, and the verdict that stays in view. On a phone the verdict is one
 * line, and the heading stands behind it.
 */
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
  const wide = useWide();
  const all = useVerdictFirst();
  const { saving, flush } = useRoom().editor;
  const judged = { plan, result, waiting, open };
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
          mb: { xs: 1, md: 0 },
          py: { md: 1.25 },
          "@media print": { position: "static" },
        }}
      >
        {wide ? (
          <>
            <Box sx={{ minWidth: 0 }}>{heading}</Box>
            <Seal {...judged} />
          </>
        ) : (
          <>
            <Typography component="h1" sx={visuallyHidden}>
              {plan.title}
            </Typography>
            <FoldedSeal {...judged}>
              <Box sx={{ px: 2, py: 1, borderBottom: 1, borderColor: "divider" }}>{heading}</Box>
            </FoldedSeal>
            <Box sx={saving.kind === "failed" ? { px: 2 } : visuallyHidden}>
              <SaveNote saving={saving} again={() => void flush().catch(() => undefined)} />
            </Box>
          </>
        )}
      </Box>
      {all ? children : <Waiting what="the rest" />}
    </Box>
  );
}
