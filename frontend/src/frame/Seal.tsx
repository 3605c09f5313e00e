import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { Plan, Result } from "../api/client";
import { tone, VERDICT_WORDS, VerdictMark } from "./marks";
import { since } from "./time";
import { inHundred } from "../units/units";
import type { OpenStage } from "../saying/open";
import { useNow } from "./useNow";

export const CAUTION = "Calculated from your inputs. Not permission to fly.";

/** How old the weather is that a verdict stands on. */
export function weatherAge(plan: Plan, now: Date): string {
  const asOf = plan.weather.as_of;
  return asOf ? `weather ${since(new Date(asOf), now)}` : "weather age unknown";
}

/** The verdict: shape, word, the tightest check, the age of what it stands on. */
export function Seal({
  plan,
  result,
  waiting = false,
  open,
  asRecorded,
}: {
  plan: Plan;
  result: Result | undefined;
  waiting?: boolean;
  /** What is still open at each stage. */
  open?: OpenStage[];
  /** When it was judged, for a verdict that is history. */
  asRecorded?: string;
}) {
  const ticking = useNow();
  const now = asRecorded ? new Date(asRecorded) : ticking;
  const verdict = result?.verdict ?? "unknown";
  const tightest = result?.checks[0];
  return (
    <Box
      role="status"
      aria-label="Verdict"
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1.5,
        border: { xs: 0, md: "2px solid" },
        borderColor: { md: tone(verdict) },
        bgcolor: { xs: tone(verdict), md: "background.paper" },
        color: { xs: "var(--onVerdict)", md: "text.primary" },
        borderRadius: { xs: 0, md: "14px" },
        px: 2,
        py: 1,
        minHeight: 76,
      }}
    >
      <Box sx={{ display: { xs: "none", md: "block" }, lineHeight: 0 }}>
        <VerdictMark verdict={verdict} size={48} />
      </Box>
      <Box sx={{ display: { md: "none" }, lineHeight: 0 }}>
        <VerdictMark verdict={verdict} size={40} inverted />
      </Box>
      <Box sx={{ minWidth: 0, lineHeight: 1.25 }}>
        <Typography
          component="p"
          sx={{
            fontSize: "1.3rem",
            fontWeight: 800,
            lineHeight: 1.15,
            color: { md: tone(verdict) },
          }}
        >
          {result ? VERDICT_WORDS[verdict] : waiting ? "Checking…" : "Not checked"}
        </Typography>
        <Typography variant="body2" sx={{ lineHeight: 1.3 }}>
          {tightest ? (
            <>
              <b>{tightest.label}:</b> {tightest.sentence}
            </>
          ) : waiting ? (
            "One moment."
          ) : (
            "This plan couldn’t be checked. See why below."
          )}
        </Typography>
        <Typography
          sx={{
            fontSize: ".8rem",
            color: { xs: "inherit", md: "text.secondary" },
            lineHeight: 1.3,
          }}
        >
          {result?.chance && (
            <>
              home above {result.reserve_pct} % in{" "}
              <b>{inHundred(result.chance.above_reserve)} of 100</b> ·{" "}
            </>
          )}
          {weatherAge(plan, now)}
          {result && result.questions.length > 0 && ` · ${result.questions.length} not checked`}
          {open?.map((stage) => ` · ${stage.name} ${stage.questions.length} open`)} · {CAUTION}
        </Typography>
      </Box>
    </Box>
  );
}
