import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Typography from "@mui/material/Typography";
import { useMemo } from "react";
import type { Problem } from "../api/client";
import { useCasesAhead, type FamilyNow } from "../api/practice";
import { Panel } from "../shell/Panel";
import { ProblemNote } from "../shell/notes";
import { useUnits } from "../shell/preferences";

/** Cases made ahead, for a place without reception: answered and marked on this device. */
export function WithoutServer({ families }: { families: FamilyNow[] }) {
  const keys = useMemo(() => families.map((family) => family.key), [families]);
  const { here, making, error, make } = useCasesAhead(keys, useUnits());
  return (
    <Panel title="Without the server" hint={here > 0 ? `${here} cases here` : undefined}>
      <Typography>
        Twenty cases of each kind, twenty flights to bring home and twenty to rehearse alerts with
        can be made ahead and marked on this device. Drills come along with a session; the eye needs
        the server only to work out what it found. After a change of gear or minimums make them
        again.
      </Typography>
      {error && <ProblemNote problem={error as Problem} />}
      {making ? (
        <Box sx={{ mt: 1 }}>
          <LinearProgress
            variant="determinate"
            aria-label="Cases made"
            value={(100 * making.done) / making.of}
          />
          <Typography variant="body2" role="status">
            {making.done} of {making.of} kinds
          </Typography>
        </Box>
      ) : (
        <Button variant="outlined" sx={{ minHeight: 48, mt: 1 }} onClick={make}>
          {here > 0 ? "Make them again" : "Make cases ahead"}
        </Button>
      )}
    </Panel>
  );
}
