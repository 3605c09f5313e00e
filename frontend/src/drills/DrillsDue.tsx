import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { DrillsNow } from "../api/client";
import { useDrillsNow } from "../api/drills";
import { Panel } from "../shell/Panel";
import { courseWords } from "./words";

/** In words: which drills are next, by their names. */
export function nextWords({ wanted, drills }: DrillsNow): string {
  return wanted.map((key) => drills.find((d) => d.key === key)!.name).join("; ");
}

/** What to practise in a session: what the course for first flights has next, and what is due. Nothing when nothing is. */
export function DrillsDue({
  session,
  firstFlights,
  only = false,
}: {
  session: number;
  /** Whether the session is one of first flights, whatever the minimums say. */
  firstFlights: boolean;
  /** Whether it is shown on first flights alone. */
  only?: boolean;
}) {
  const drills = useDrillsNow();
  const now = drills.data;
  if (!now) return null;
  const first = firstFlights || now.first_flights;
  if (!first && (only || now.wanted.length === 0)) return null;
  const names = first ? courseNext(now) : nextWords(now);
  return (
    <Panel title="Drills" hint={first ? courseWords(now) : `${now.wanted.length} due`}>
      <Typography>{names ? `${names}.` : "Nothing is due."}</Typography>
      <Box className="no-print" sx={{ mt: 0.5 }}>
        <Button
          component={Link}
          to={`/sessions/${session}/drills`}
          variant="outlined"
          sx={{ minHeight: 48 }}
        >
          Open the drills
        </Button>
      </Box>
    </Panel>
  );
}

/** On first flights what the course has next stands first, whether or not the minimums say that these are some. */
function courseNext(now: DrillsNow): string {
  const others = now.wanted.filter((key) => !now.course.left.includes(key));
  return nextWords({ ...now, wanted: now.course.left.length > 0 ? now.course.left : others });
}
