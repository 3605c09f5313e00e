import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Problem } from "../../api/client";
import { ProblemNote } from "../../shell/notes";
import { useUnits } from "../../shell/preferences";

/** The card for the pocket: what to dial in, when to turn back, what ends the flight, what to do if. */
export function PocketCard({
  sessionId,
  flush,
}: {
  sessionId: number;
  flush: () => Promise<number>;
}) {
  const units = useUnits();
  const [problem, setProblem] = useState<Problem | null>(null);
  const get = (file: string, more: Record<string, string>) => {
    const query = new URLSearchParams({ ...units, ...more });
    setProblem(null);
    // The card is of the plan as saved.
    flush().then(
      () => window.location.assign(`/api/sessions/${sessionId}/${file}?${query}`),
      (cause: unknown) =>
        setProblem(cause instanceof Problem ? cause : new Problem(0, String(cause))),
    );
  };
  return (
    <>
      <Typography variant="body2" color="text.secondary">
        Settings, turn-back charge by distance and wind, reach, what ends the flight, what to do if.
      </Typography>
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
        <Button variant="outlined" onClick={() => get("pocket.pdf", { paper: "a6" })}>
          PDF, A6
        </Button>
        <Button variant="outlined" onClick={() => get("pocket.pdf", { paper: "a4" })}>
          PDF, A4
        </Button>
        <Button variant="outlined" onClick={() => get("pocket.html", {})}>
          Page for the phone
        </Button>
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
        Keep the page on the phone (share, then save): it opens without Lark’s server.
      </Typography>
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}
