import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Problem } from "../api/client";
import { useUnits } from "../shell/preferences";
import { momentHere } from "../shell/time";
import { dropTaken, type Taken } from "./store";
import { takeAlong } from "./takeAlong";
import { sizeWritten } from "../units/units";
import { useTaken } from "./useTaken";

/** How large something is, in the words of a phone's settings. */

const GONE = "Server unavailable. What was taken along before is still here.";

function State({ taken, revision }: { taken: Taken; revision: number }) {
  const older = taken.revision !== revision;
  return (
    <Typography>
      {taken.missing.length > 0 ? "Incomplete" : "Complete"} on this device since{" "}
      {momentHere(taken.at)}, {sizeWritten(taken.bytes)}.
      {taken.missing.length > 0 && ` Missing: ${taken.missing.join(", ")}.`}
      {!taken.tables &&
        " Without field tables: a wind that you measure there is not checked. Take along again for them."}
      {older && " You have changed the session since; it follows by itself."}
    </Typography>
  );
}

/** Everything that a session needs on this device, for where no server can be reached. */
export function TakeAlong({
  id,
  revision,
  flush,
}: {
  id: number;
  revision: number;
  flush: () => Promise<unknown>;
}) {
  const units = useUnits();
  const taken = useTaken(id);
  const [share, setShare] = useState<number | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const go = async () => {
    setFault(null);
    setShare(0);
    try {
      await flush();
      const done = await takeAlong(id, units, true, (n, of) => setShare((100 * n) / of));
      if (!done) setFault(GONE);
    } catch (cause) {
      if (cause instanceof Problem) setFault(GONE);
      else setFault("This browser has no room for it. What was taken along before is still here.");
    } finally {
      setShare(null);
    }
  };
  return (
    <Box component="section" aria-label="Take along">
      {taken ? (
        <State taken={taken} revision={revision} />
      ) : (
        <Typography>
          Plan, checks, site and preflight, packing list, emergency steps, map, side view,
          forecasts, and field tables to look up a wind that you measure there, for where no server
          can be reached. Sessions of the next two days come along by themselves.
        </Typography>
      )}
      {share !== null && (
        <Box role="status">
          <Typography variant="body2">Taking along: {Math.round(share)}%</Typography>
          <LinearProgress variant="determinate" value={share} sx={{ my: 1 }} />
        </Box>
      )}
      {fault && (
        <Typography role="alert" sx={{ color: "var(--stay)" }}>
          {fault}
        </Typography>
      )}
      <Box sx={{ display: "flex", gap: 1, mt: 1 }}>
        <Button variant="outlined" disabled={share !== null} onClick={() => void go()}>
          {taken ? "Take along again" : "Take along"}
        </Button>
        {taken && (
          <Button disabled={share !== null} onClick={() => void dropTaken(id)}>
            Remove from this device
          </Button>
        )}
      </Box>
    </Box>
  );
}
