import ExpandMoreIcon from "@mui/icons-material/ExpandMore";
import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import Typography from "@mui/material/Typography";
import { useEffect, useId, useState, type ReactNode } from "react";
import type { Plan, Result } from "../api/client";
import { tone, VERDICT_WORDS, VerdictMark } from "./marks";
import { since } from "./time";
import { inHundred } from "../units/units";
import type { OpenStage } from "../outbox/open";
import { takenAt } from "../along/takenAt";
import { useAway, type Away } from "../along/away";
import { useNow } from "./useNow";

export const CAUTION = "Calculated from your inputs. Not permission to fly.";

/** How old the weather is that a verdict stands on. */
export function weatherAge(plan: Plan, now: Date): string {
  const asOf = plan.weather.as_of;
  return asOf ? `weather ${since(new Date(asOf), now)}` : "weather age unknown";
}

interface Judged {
  plan: Plan;
  result: Result | undefined;
  waiting?: boolean;
  /** What is still open at each stage. */
  open?: OpenStage[];
  /** When it was judged, for a verdict that is history. */
  asRecorded?: string;
}

/** The verdict's word, or why there is none yet. */
function word({ result, waiting }: Judged, away: Away | null): string {
  if (!result) return waiting ? "Checking…" : "Not checked";
  // The server is out of reach: the word is not of now.
  const tables = result.tables_of;
  if (tables) return `${VERDICT_WORDS[result.verdict]}, by tables`;
  return VERDICT_WORDS[result.verdict] + (away ? `, ${takenAt(away.since)}` : "");
}

/** That the server is out of reach says nothing about a verdict that is history. */
function useAwayOf({ asRecorded }: Judged): Away | null {
  const away = useAway();
  return asRecorded ? null : away;
}

/** What decides, and what it stands on. */
function Details(judged: Judged) {
  const { plan, result, waiting, open, asRecorded } = judged;
  const ticking = useNow();
  const now = asRecorded ? new Date(asRecorded) : ticking;
  const tightest = result?.checks[0];
  return (
    <>
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
            Chance of landing with {result.reserve_pct}% or more:{" "}
            <b>{inHundred(result.chance.above_reserve)} in 100</b> ·{" "}
          </>
        )}
        {result?.tables_of &&
          `Looked up in the field tables taken along ${takenAt(result.tables_of)}; the full check follows when the server is back · `}
        {weatherAge(plan, now)}
        {result && result.questions.length > 0 && ` · ${result.questions.length} not checked`}
        {open?.map((stage) => ` · ${stage.name} ${stage.questions.length} open`)} · {CAUTION}
      </Typography>
    </>
  );
}

/** What the server said in the page itself, for the seconds until the screens have come, gives way to the verdict. */
function useInPlaceOfTheFirstWord({ result }: Judged) {
  useEffect(() => {
    if (result) document.getElementById("saved")?.remove();
  }, [result]);
}

/** The verdict: shape, word, the tightest check, the age of what it stands on. */
export function Seal(judged: Judged) {
  useInPlaceOfTheFirstWord(judged);
  const away = useAwayOf(judged);
  const verdict = judged.result?.verdict ?? "unknown";
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
          {word(judged, away)}
        </Typography>
        <Details {...judged} />
      </Box>
    </Box>
  );
}

/** The same in one line for a phone: mark, verdict, what decides. A touch shows the rest, and what belongs to it. */
export function FoldedSeal({ children, ...judged }: Judged & { children?: ReactNode }) {
  const [shown, setShown] = useState(false);
  const more = useId();
  useInPlaceOfTheFirstWord(judged);
  const away = useAwayOf(judged);
  const verdict = judged.result?.verdict ?? "unknown";
  const tightest = judged.result?.checks[0];
  return (
    <Box sx={{ boxShadow: shown ? 4 : 0 }}>
      <Box
        role="status"
        aria-label="Verdict"
        sx={{ bgcolor: tone(verdict), color: "var(--onVerdict)" }}
      >
        <ButtonBase
          aria-expanded={shown}
          aria-controls={more}
          onClick={() => setShown(!shown)}
          sx={{ width: "100%", minHeight: 48, px: 2, gap: 1, justifyContent: "flex-start" }}
        >
          <VerdictMark verdict={verdict} size={28} inverted />
          <Typography component="span" sx={{ fontSize: "1.15rem", fontWeight: 800 }} noWrap>
            {word(judged, away)}
          </Typography>
          <Typography
            component="span"
            variant="body2"
            noWrap
            sx={{ flex: 1, minWidth: 0, textAlign: "right" }}
          >
            {tightest?.label}
          </Typography>
          <ExpandMoreIcon sx={{ transform: shown ? "rotate(180deg)" : "none" }} />
        </ButtonBase>
        {shown && (
          <Box sx={{ px: 2, pb: 1 }}>
            <Details {...judged} />
          </Box>
        )}
      </Box>
      <Box id={more} sx={{ bgcolor: "background.default" }}>
        {shown && children}
      </Box>
    </Box>
  );
}
