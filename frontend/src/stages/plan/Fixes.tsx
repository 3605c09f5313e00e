import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Check, Fix, Plan } from "../../api/client";
import { useFixes } from "../../api/queries";
import { VERDICT_WORDS, VerdictMark } from "../../shell/marks";
import { useUnits } from "../../shell/preferences";
import { setAt } from "../../editing/history";

/** The plan that levers are sought for, the fix being tried, and how to try another. */
export interface Trying {
  plan: Plan;
  tried: Fix | null;
  setTried: (fix: Fix | null) => void;
}

/** The plan with a fix's changes in it. */
export function withFix(plan: Plan, fix: Fix): Plan {
  return Object.entries(fix.set).reduce(
    (changed, [key, value]) => setAt(changed, key.split("."), value),
    plan,
  );
}

/** What would clear a check, each proven by the server with the verdict it leads to. */
export function Fixes({ check, trying }: { check: Check; trying: Trying }) {
  const open = check.status === "care" || check.status === "fail" || trying.tried !== null;
  const { data, isPending } = useFixes(trying.plan, check.id, useUnits(), open);
  if (!open) return null;
  return (
    <Box component="section" aria-label={`Ways to fix ${check.label}`} sx={{ mt: 1 }}>
      <Typography component="h3" variant="body2" color="text.secondary">
        Ways to fix this
      </Typography>
      {isPending && <Typography variant="body2">Looking for what would clear it…</Typography>}
      {data?.length === 0 && (
        <Typography variant="body2">
          No one or two changes fix this without breaking another limit.
        </Typography>
      )}
      {data?.map((fix) => {
        const on = trying.tried?.sentence === fix.sentence;
        return (
          <Box
            key={fix.sentence}
            sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 48, flexWrap: "wrap" }}
          >
            <Button
              size="small"
              variant={on ? "contained" : "outlined"}
              aria-pressed={on}
              aria-label={`Try: ${fix.sentence}`}
              onClick={() => trying.setTried(on ? null : fix)}
            >
              Try
            </Button>
            <span>{fix.sentence}</span>
            <Box
              component="span"
              sx={{
                display: "inline-flex",
                alignItems: "center",
                gap: 0.5,
                color: "text.secondary",
              }}
            >
              then <VerdictMark verdict={fix.verdict} size={18} />{" "}
              {VERDICT_WORDS[fix.verdict].toLowerCase()}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
