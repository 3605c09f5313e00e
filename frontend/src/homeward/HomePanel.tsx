import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { Problem } from "../api/client";
import { useHoming, useSendingFlown } from "../api/homeward";
import { dueIn } from "../practice/words";
import { Panel } from "../shell/Panel";
import { ProblemNote } from "../shell/notes";
import { useNow } from "../shell/useNow";
import { ENDS, KINDS } from "./words";

const LATEST = 5;

/** Flights to bring home: the next one, and how they went by what went wrong. */
export function HomePanel() {
  const homing = useHoming();
  const { waiting } = useSendingFlown();
  const now = useNow();
  if (homing.error)
    return (
      <Panel title="Bring it home">
        <ProblemNote problem={homing.error as Problem} again={() => void homing.refetch()} />
      </Panel>
    );
  if (!homing.data) return null;
  const flown = homing.data.kinds.filter((k) => k.ends.length > 0);
  return (
    <Panel
      title="Bring it home"
      hint={homing.data.due ? "due" : flown.length === 0 ? "not begun" : undefined}
    >
      <Typography>
        A flight of your aircraft in speeded-up time, where something may go wrong. Act in a few
        words; then see what else you could have done, and until when.
      </Typography>
      {waiting > 0 && (
        <Typography role="status">
          {waiting === 1 ? "One flight waits" : `${waiting} flights wait`} on this device for the
          server.
        </Typography>
      )}
      <Button
        component={Link}
        to={`/practice/home/${homing.data.seed}`}
        variant="outlined"
        sx={{ minHeight: 48, my: 1 }}
      >
        Fly one
      </Button>
      {flown.length > 0 && (
        <Box component="ul" aria-label="Flights so far" sx={{ listStyle: "none", p: 0, m: 0 }}>
          {flown.map(({ kind, ends, due }) => (
            <Box
              component="li"
              key={kind}
              sx={{
                display: "flex",
                gap: 1,
                flexWrap: "wrap",
                borderTop: 1,
                borderColor: "divider",
                py: 0.5,
              }}
            >
              <Typography sx={{ flex: 1, minWidth: 180, fontWeight: 700 }}>
                {KINDS[kind].name}
              </Typography>
              <Typography color="text.secondary">
                {ends
                  .slice(-LATEST)
                  .map((end) => ENDS[end].short)
                  .join(", ")}
                {due && `; due ${dueIn(due, now)}`}
              </Typography>
            </Box>
          ))}
        </Box>
      )}
    </Panel>
  );
}
