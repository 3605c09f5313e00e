import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { Link } from "react-router";
import type { EyeRoom } from "../api/eye";
import type { Problem } from "../api/client";
import { useChangeMinimums, useMinimums } from "../api/queries";
import { Panel } from "../shell/Panel";
import { ProblemNote } from "../shell/notes";
import { useUnits } from "../shell/preferences";
import { momentHere } from "../shell/time";
import { written } from "../units/units";
import { SKY } from "./EyeRun";
import type { Found } from "./kept";

/** What was found, the latest first; the latest may be taken for a line of sight, by the pilot's word. */
export function EyeLooks({ room }: { room: EyeRoom }) {
  const units = useUnits();
  const m = (value: number) => written(value, "length", units);
  if (room.looks.length === 0) return null;
  const [latest] = room.looks;
  return (
    <Panel title="What was found" hint="three in four right">
      <Box component="ul" aria-label="What was found" sx={{ listStyle: "none", p: 0, m: 0 }}>
        {room.looks.map((look) => (
          <Box component="li" key={look.uid} sx={{ borderTop: 1, borderColor: "divider", py: 1 }}>
            <Typography sx={{ fontWeight: 700 }}>
              {m(look.seen_m)} ({m(look.low_m)} to {m(look.high_m)})
            </Typography>
            <Typography variant="body2" color="text.secondary">
              {look.aircraft}, {SKY[look.background].name.toLowerCase()},{" "}
              {momentHere(look.looked_at)}
              {!look.timed && ", left until answered"}. The formula for its size gives{" "}
              {m(look.formula_m)}.
            </Typography>
            {look === latest && <Take look={look} />}
          </Box>
        ))}
      </Box>
      <Typography variant="body2" sx={{ mt: 1 }}>
        On a screen, indoors, with nothing else to do: outside it is harder. A line of sight that
        your rules ask for stays what they say.
      </Typography>
    </Panel>
  );
}

const LEAST_OWN_M = 10;

function Take({ look }: { look: Found }) {
  const units = useUnits();
  const minimums = useMinimums(undefined);
  const change = useChangeMinimums(undefined);
  const { own_m } = look;
  // Minimums take no line of sight that is shorter.
  if (own_m === null || own_m < LEAST_OWN_M || !minimums.data) return null;
  const { settings } = minimums.data;
  const now = settings.minimums;
  const taken = now.sight_rule === "own" && now.sight_own_m === own_m;
  return (
    <Box sx={{ mt: 0.5 }}>
      {change.error && <ProblemNote problem={change.error as Problem} />}
      {taken ? (
        <Typography>
          {written(own_m, "length", units)} is your line of sight in{" "}
          <Link to="/minimums">Minimums</Link>.
        </Typography>
      ) : (
        <>
          <Button
            variant="outlined"
            sx={{ minHeight: 48 }}
            disabled={change.isPending}
            onClick={() =>
              change.mutate({
                ...settings,
                minimums: { ...now, sight_rule: "own", sight_own_m: own_m },
              })
            }
          >
            Take {written(own_m, "length", units)} as my line of sight
          </Button>
          <Typography variant="body2" color="text.secondary">
            The near end of what was found, and never more than the formula. It holds for every
            aircraft of yours; undo it in Minimums.
          </Typography>
        </>
      )}
    </Box>
  );
}
