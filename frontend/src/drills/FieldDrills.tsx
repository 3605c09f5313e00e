import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import { useDrillsNow } from "../api/drills";
import { Panel } from "../shell/Panel";
import { useNow } from "../shell/useNow";
import { useNextSession } from "./useNextSession";
import { courseWords, standingSentence } from "./words";

/** The drills in the field: how each stands, and the session in which they are flown. */
export function FieldDrills() {
  const drills = useDrillsNow();
  const session = useNextSession();
  const now = useNow();
  if (!drills.data) return null;
  const { first_flights, wanted } = drills.data;
  return (
    <Panel
      title="In the field"
      hint={first_flights ? courseWords(drills.data) : `${wanted.length} due`}
    >
      <Typography sx={{ mb: 1 }}>
        Short drills near the take-off point, each checked against the session you are in: room,
        people, wind. {session !== null ? null : "They are flown in a session; make one first."}
      </Typography>
      <Box component="ul" aria-label="In the field" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {drills.data.drills.map((drill) => (
          <Box
            component="li"
            key={drill.key}
            sx={{ borderTop: 1, borderColor: "divider", py: 0.75 }}
          >
            <Typography sx={{ fontWeight: 700 }}>
              {session !== null ? (
                <Box
                  component={Link}
                  to={`/sessions/${session}/drills/${drill.key}`}
                  sx={{ color: "text.primary" }}
                >
                  {drill.name}
                </Box>
              ) : (
                drill.name
              )}
            </Typography>
            <Typography variant="body2" color="text.secondary">
              {standingSentence(drill, now)}
              {wanted.includes(drill.key) && " Next."}
            </Typography>
          </Box>
        ))}
      </Box>
      <Button
        component={Link}
        to={session === null ? "/sessions" : `/sessions/${session}/drills`}
        variant="outlined"
        sx={{ minHeight: 48, mt: 1 }}
      >
        {session === null ? "Sessions" : "Drills in your next session"}
      </Button>
    </Panel>
  );
}
