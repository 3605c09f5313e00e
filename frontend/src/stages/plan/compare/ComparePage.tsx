import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Paper from "@mui/material/Paper";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { useEffect } from "react";
import { Link, useSearchParams } from "react-router";
import type { Check, Plan, Problem, Result } from "../../../api/client";
import { useSessionActions, useVariants } from "../../../api/queries";
import { STATUS_WORDS, tone, VERDICT_OF, VERDICT_WORDS, VerdictMark } from "../../../shell/marks";
import { ProblemNote, Waiting } from "../../../shell/notes";
import { useUnits } from "../../../shell/preferences";
import { headline } from "../headline";
import { againstLimit, barLength, PAST_WALL } from "../rails";
import { useRoom } from "../../SessionRoom";
import { rows } from "./rows";
import { MOST_COMPARED, VARIANTS, type Variant } from "./variants";

/** Two or three ways to fly the same session, side by side on the same rails. */
export function ComparePage() {
  const { id, editor } = useRoom();
  return <Comparison sessionId={id} plan={editor.plan} />;
}

function Comparison({ sessionId, plan }: { sessionId: number; plan: Plan }) {
  const [params, setParams] = useSearchParams();
  const chosen = (params.get("of") ?? "planned,into,with").split(",");
  const variants = VARIANTS.filter((v) => chosen.includes(v.key)).slice(0, MOST_COMPARED);
  const results = useVariants(
    variants.map((v) => v.of(plan)),
    useUnits(),
  );
  const problem = results.find((r) => r.error)?.error as Problem | undefined;

  useEffect(() => {
    document.title = `Compare ${plan.title} · Lark`;
  }, [plan.title]);

  const judged = results.map((r) => r.data);
  const ready = judged.every((r): r is Result => r !== undefined);
  return (
    <Box sx={{ p: { xs: 1.5, md: 2.5 }, maxWidth: 1160 }}>
      <Button component={Link} to={`/sessions/${sessionId}/plan`}>
        Back to the plan
      </Button>
      <Typography variant="h1" sx={{ mt: 1 }}>
        Compare: {plan.title}
      </Typography>
      <Typography color="text.secondary">{headline(plan)}</Typography>
      <Typography sx={{ mt: 1.5 }}>Two or three ways to fly it:</Typography>
      <ToggleButtonGroup
        aria-label="Ways to fly it"
        value={variants.map((v) => v.key)}
        onChange={(_, next: string[]) => {
          // A fourth choice takes the place of the oldest one.
          const kept = next.length > MOST_COMPARED ? next.slice(-MOST_COMPARED) : next;
          if (kept.length > 0) setParams({ of: kept.join(",") }, { replace: true });
        }}
        sx={{ flexWrap: "wrap", my: 1 }}
      >
        {VARIANTS.map((v) => (
          <ToggleButton
            key={v.key}
            value={v.key}
            sx={{ textTransform: "none", minHeight: 48, color: "text.primary" }}
          >
            {v.name}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {problem && <ProblemNote problem={problem} />}
      {!ready && !problem && <Waiting what="the comparison" />}
      {ready && (
        <>
          <Columns>
            {variants.map((v, i) => (
              <VariantHead
                key={v.key}
                sessionId={sessionId}
                variant={v}
                plan={plan}
                result={judged[i]!}
              />
            ))}
          </Columns>
          <Paper
            variant="outlined"
            sx={{ borderRadius: "14px", px: { xs: 1, md: 2 }, py: 1, mt: 1.5 }}
          >
            {rows(judged).map((id) => (
              <CheckRow
                key={id}
                checks={judged.map((r) => r.checks.find((c) => c.id === id))}
                names={variants.map((v) => v.name)}
              />
            ))}
          </Paper>
        </>
      )}
    </Box>
  );
}

function Columns({ children }: { children: React.ReactNode }) {
  return (
    <Box
      sx={{
        display: "grid",
        gap: 1.5,
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: "repeat(auto-fit, minmax(220px, 1fr))" },
      }}
    >
      {children}
    </Box>
  );
}

function VariantHead({
  sessionId,
  variant,
  plan,
  result,
}: {
  sessionId: number;
  variant: Variant;
  plan: Plan;
  result: Result;
}) {
  const { importPlan } = useSessionActions();
  const landing = result.energy?.landing_pct;
  return (
    <Paper
      component="section"
      aria-label={variant.name}
      variant="outlined"
      sx={{ borderRadius: "14px", p: 1.5, borderColor: tone(result.verdict), borderWidth: 2 }}
    >
      <Typography sx={{ fontWeight: 750 }}>{variant.name}</Typography>
      <Box sx={{ display: "flex", alignItems: "center", gap: 1, my: 0.5 }}>
        <VerdictMark verdict={result.verdict} size={32} />
        <Typography sx={{ fontWeight: 800, fontSize: "1.15rem", color: tone(result.verdict) }}>
          {VERDICT_WORDS[result.verdict]}
        </Typography>
      </Box>
      <Typography variant="body2">
        <b>{result.checks[0]!.label}:</b> {result.checks[0]!.sentence}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {landing == null ? "Can’t get home." : `Home with ${Math.round(landing)}%.`}
      </Typography>
      {variant.key !== "planned" && (
        <Button
          size="small"
          disabled={importPlan.isPending || importPlan.isSuccess}
          onClick={() => {
            const title = `${plan.title.slice(0, 90)} (${variant.name.toLowerCase()})`;
            importPlan.mutate(JSON.stringify({ ...variant.of(plan), title }));
          }}
        >
          {importPlan.isSuccess ? "Kept as a session" : "Keep as a session"}
        </Button>
      )}
      {importPlan.isSuccess && (
        <Button size="small" component={Link} to={`/sessions/${importPlan.data.id}/plan`}>
          Open it
        </Button>
      )}
      {sessionId > 0 && importPlan.error && <ProblemNote problem={importPlan.error as Problem} />}
    </Paper>
  );
}

function CheckRow({ checks, names }: { checks: (Check | undefined)[]; names: string[] }) {
  const units = useUnits();
  const label = checks.find((c) => c)?.label;
  return (
    <Box
      component="section"
      aria-label={label}
      sx={{ py: 0.75, "& + &": { borderTop: 1, borderColor: "divider" } }}
    >
      <Typography component="h2" sx={{ fontWeight: 700 }}>
        {label}
      </Typography>
      {checks.map((check, i) => (
        <Box
          key={names[i]}
          aria-label={
            check
              ? `${names[i]}, ${STATUS_WORDS[check.status]}: ${againstLimit(check, units)}`
              : `${names[i]}: does not apply`
          }
          role="group"
          sx={{
            display: "grid",
            gridTemplateColumns: { xs: "minmax(0,1fr) auto", md: "150px minmax(0,1fr) 170px" },
            gridTemplateAreas: { xs: '"name value" "bar bar"', md: '"name bar value"' },
            columnGap: 1.5,
            alignItems: "center",
          }}
        >
          <Typography sx={{ gridArea: "name" }} variant="body2" color="text.secondary">
            {names[i]}
          </Typography>
          <Bar check={check} />
          <Typography
            sx={{
              gridArea: "value",
              fontWeight: check && check.status !== "pass" ? 750 : 400,
              display: "flex",
              gap: 0.5,
              alignItems: "center",
            }}
            variant="body2"
          >
            {check && check.status !== "pass" && (
              <VerdictMark verdict={VERDICT_OF[check.status]} size={14} />
            )}
            {check ? againstLimit(check, units) : "does not apply"}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}

function Bar({ check }: { check: Check | undefined }) {
  const scale = 100 / (1 + PAST_WALL);
  return (
    <Box aria-hidden sx={{ gridArea: "bar", position: "relative", height: 16 }}>
      <Box
        sx={{
          position: "absolute",
          inset: `0 auto 0 ${scale}%`,
          borderLeft: "3px solid var(--ink)",
        }}
      />
      {check?.used != null && (
        <Box
          sx={{
            position: "absolute",
            top: 4,
            height: 8,
            minWidth: "3px",
            width: `${barLength(check.used) * scale}%`,
            bgcolor: check.status === "pass" ? "var(--quiet)" : tone(VERDICT_OF[check.status]),
            borderRight: "3px solid var(--ink)",
          }}
        />
      )}
    </Box>
  );
}
