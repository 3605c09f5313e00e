import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Problem, type Ready } from "../../api/client";
import { ProblemNote } from "../../shell/notes";
import { clock, day } from "../../shell/time";

const MOMENTS: Record<Ready["steps"][number]["what"], string> = {
  charge: "Start charging",
  bag: "Pack the bag",
  leave: "Leave",
  arrive: "On site",
  take_off: "Take off",
  home: "Home",
};

/** When to do what, counted back from the take-off; it goes out as a calendar with alarms. */
export function Countdown({
  ready,
  sessionId,
  flush,
}: {
  ready: Ready;
  sessionId: number;
  flush: () => Promise<number>;
}) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const download = () => {
    setProblem(null);
    // What goes out is the session as saved.
    flush().then(
      () => window.location.assign(`/api/sessions/${sessionId}/calendar.ics`),
      (cause: unknown) =>
        setProblem(cause instanceof Problem ? cause : new Problem(0, String(cause))),
    );
  };
  return (
    <>
      <Box component="ol" aria-label="Countdown" sx={{ listStyle: "none", m: 0, p: 0 }}>
        {ready.steps.map((step, i) => {
          const fresh = i === 0 || day(step.at) !== day(ready.steps[i - 1]!.at);
          return (
            <li key={step.what}>
              {fresh && (
                <Typography variant="body2" color="text.secondary" sx={{ mt: i ? 0.5 : 0 }}>
                  {day(step.at)}
                </Typography>
              )}
              <Box sx={{ display: "grid", gridTemplateColumns: "64px minmax(0,1fr)", py: 0.25 }}>
                <Typography sx={{ fontWeight: 750 }}>{clock(step.at)}</Typography>
                <Box>
                  <Typography sx={{ fontWeight: 650 }}>{MOMENTS[step.what]}</Typography>
                  <Typography variant="body2" color="text.secondary">
                    {step.why}
                    {step.latest !== step.at &&
                      ` At the very latest ${day(step.latest).slice(0, 3)} ${clock(step.latest)}.`}
                  </Typography>
                </Box>
              </Box>
            </li>
          );
        })}
      </Box>
      <Button className="no-print" size="small" onClick={download} sx={{ ml: -0.75 }}>
        Add to calendar with alerts
      </Button>
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}
