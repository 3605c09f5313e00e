import Box from "@mui/material/Box";
import Tab from "@mui/material/Tab";
import Tabs from "@mui/material/Tabs";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";
import { useSearchParams } from "react-router";
import type { Plan, Result } from "../../api/client";
import { useLook } from "../../api/weather";
import { STATUS_WORDS } from "../../shell/marks";
import { useUnits } from "../../shell/preferences";
import { clock } from "../../shell/time";

/** A view of the plan: its name, what it answers in a word or two, and what it shows. */
export interface View {
  key: string;
  name: string;
  answer?: string;
  content: ReactNode;
}

/** Views of the plan one at a time; each tab says its answer, and the address keeps which one is open. */
export function PlanViews({ views, label }: { views: View[]; label: string }) {
  const [search, setSearch] = useSearchParams();
  const at = views.find((v) => v.key === search.get("view")) ?? views[0]!;
  return (
    <>
      <Tabs
        value={at.key}
        aria-label={label}
        variant="scrollable"
        scrollButtons={false}
        onChange={(_, key: string) =>
          setSearch(key === views[0]!.key ? {} : { view: key }, {
            replace: true,
            preventScrollReset: true,
          })
        }
        sx={{
          mb: 1,
          minHeight: 48,
          borderBottom: 1,
          borderColor: "divider",
          "& .MuiTab-root": {
            flex: 1,
            minWidth: { xs: 64, md: 110 },
            minHeight: 48,
            px: 1,
            py: 0.5,
          },
        }}
      >
        {views.map((view) => (
          <Tab
            key={view.key}
            value={view.key}
            id={`view-${view.key}`}
            aria-controls={`panel-${view.key}`}
            sx={{ textTransform: "none", color: "text.primary", alignItems: "center" }}
            label={
              <>
                <Box component="span" sx={{ fontWeight: 750, lineHeight: 1.2 }}>
                  {view.name}
                </Box>
                {view.answer && (
                  <Typography component="span" variant="body2" color="text.secondary" noWrap>
                    {view.answer}
                  </Typography>
                )}
              </>
            }
          />
        ))}
      </Tabs>
      <Box role="tabpanel" id={`panel-${at.key}`} aria-labelledby={`view-${at.key}`}>
        {at.content}
      </Box>
    </>
  );
}

/** How the limits stand, in a word or two. */
export function limitsAnswer({ checks }: Result): string {
  const not = (["fail", "care", "unknown"] as const)
    .map((status) => ({ status, count: checks.filter((c) => c.status === status).length }))
    .find(({ count }) => count > 0);
  return not
    ? `${not.count} ${not.status === "unknown" ? "not checked" : STATUS_WORDS[not.status]}`
    : "all within";
}

/** What is left in the battery on landing, unless that rests on what nobody has said. */
export function batteryAnswer({ checks, energy }: Result): string {
  if (checks.some((c) => c.id === "battery.budget" && c.status === "unknown")) return "not checked";
  const lands = energy?.legs.at(-1)?.charge_after_pct;
  return energy && !energy.blocked && lands != null
    ? `lands with ${Math.round(lands)}%`
    : "can’t get home";
}

/** Whether anything that is drawn or noted stands in the way: the worst of what is cleared by height. */
export function mapAnswer({ checks }: Result, plan: Plan): string {
  const clearances = checks.filter((c) => /^(clear\.|return\.clearance)/.test(c.id));
  const worst = (["fail", "care", "unknown"] as const).find((status) =>
    clearances.some((c) => c.status === status),
  );
  if (worst) return worst === "unknown" ? "not checked" : STATUS_WORDS[worst];
  return plan.site.place == null && plan.site.obstacles.length === 0
    ? "nothing drawn"
    : "clear as drawn";
}

/** The launch window at or after the planned take-off; undefined while it is not known. */
export function useWhenAnswer(plan: Plan): string | undefined {
  const { data } = useLook(plan, null, useUnits(), !plan.site.indoors);
  if (!data) return undefined;
  const next = data.planned.find((w) => Date.parse(w.end) > Date.parse(plan.takeoff_at));
  return next ? `${clock(next.begin)}–${clock(next.end)}` : "no window";
}
