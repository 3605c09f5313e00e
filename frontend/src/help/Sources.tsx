import Box from "@mui/material/Box";
import Paper from "@mui/material/Paper";
import Typography from "@mui/material/Typography";
import type { Problem, Verdict } from "../api/client";
import { useCheckCatalogue } from "../api/queries";
import { VERDICT_WORDS, VerdictMark } from "../shell/marks";
import { ProblemNote, Waiting } from "../shell/notes";

const MEANING: Record<Verdict, string> = {
  launch: "Every check Lark could make is within limits. The closest one is still shown: watch it.",
  care: "Nothing is outside its limit, but something is close to one or needs attention.",
  stay: "At least one check fails. Change the plan, or don’t launch.",
  unknown: "Something important is missing, so Lark can’t give a verdict yet.",
};

/** The four verdicts, and every check with what it rests on. */
export function Sources() {
  const checks = useCheckCatalogue();
  return (
    <>
      <Typography variant="h2">The four verdicts</Typography>
      <Box component="dl" sx={{ m: 0 }}>
        {(Object.keys(MEANING) as Verdict[]).map((v) => (
          <Box
            key={v}
            sx={{
              display: "grid",
              gridTemplateColumns: "36px minmax(0,1fr)",
              columnGap: 1.5,
              alignItems: "center",
              my: 1,
            }}
          >
            <Box component="dt" sx={{ fontWeight: 750, display: "contents" }}>
              <VerdictMark verdict={v} size={36} />
              <span>{VERDICT_WORDS[v]}</span>
            </Box>
            <Box component="dd" sx={{ m: 0, gridColumn: 2 }}>
              {MEANING[v]}
            </Box>
          </Box>
        ))}
      </Box>
      <Typography variant="h2" sx={{ mt: 2, mb: 1 }}>
        Every check and its source
      </Typography>
      {checks.isPending && <Waiting what="the checks" />}
      {checks.error && (
        <ProblemNote problem={checks.error as Problem} again={() => void checks.refetch()} />
      )}
      {checks.data && (
        <Paper
          component="dl"
          variant="outlined"
          sx={{ m: 0, borderRadius: "14px", px: 2, py: 0.5 }}
        >
          {checks.data.map((c) => (
            <Box key={c.id} sx={{ py: 1, "& + &": { borderTop: 1, borderColor: "divider" } }}>
              <Box component="dt" sx={{ fontWeight: 750 }}>
                {c.label}{" "}
                <Typography component="span" variant="body2" color="text.secondary">
                  {c.id}
                </Typography>
              </Box>
              <Box component="dd" sx={{ m: 0 }}>
                {c.decides}
                <Typography variant="body2" color="text.secondary">
                  {c.source}
                </Typography>
              </Box>
            </Box>
          ))}
        </Paper>
      )}
    </>
  );
}
