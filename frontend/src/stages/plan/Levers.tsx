import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { Check, Lever, Plan } from "../../api/client";
import { useLevers } from "../../api/queries";
import { VERDICT_WORDS, VerdictMark } from "../../frame/marks";
import { useUnits } from "../../frame/preferences";
import { setAt } from "../../editing/history";

/** The plan that levers are sought for, the lever being tried, and how to try another. */
export interface Trying {
  plan: Plan;
  tried: Lever | null;
  setTried: (lever: Lever | null) => void;
}

/** The plan with a lever's changes in it. */
export function withLever(plan: Plan, lever: Lever): Plan {
  return Object.entries(lever.set).reduce(
    (changed, [key, value]) => setAt(changed, key.split("."), value),
    plan,
  );
}

/** What would clear a check, each proven by the server with the verdict it leads to. */
export function Levers({ check, trying }: { check: Check; trying: Trying }) {
  const open = check.status === "care" || check.status === "fail" || trying.tried !== null;
  const { data, isPending } = useLevers(trying.plan, check.id, useUnits(), open);
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
      {data?.map((lever) => {
        const on = trying.tried?.sentence === lever.sentence;
        return (
          <Box
            key={lever.sentence}
            sx={{ display: "flex", alignItems: "center", gap: 1, minHeight: 48, flexWrap: "wrap" }}
          >
            <Button
              size="small"
              variant={on ? "contained" : "outlined"}
              aria-pressed={on}
              aria-label={`Try: ${lever.sentence}`}
              onClick={() => trying.setTried(on ? null : lever)}
            >
              Try
            </Button>
            <span>{lever.sentence}</span>
            <Box
              component="span"
              sx={{
                display: "inline-flex",
                alignItems: "center",
                gap: 0.5,
                color: "text.secondary",
              }}
            >
              then <VerdictMark verdict={lever.verdict} size={18} />{" "}
              {VERDICT_WORDS[lever.verdict].toLowerCase()}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}
