import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import Typography from "@mui/material/Typography";
import { BarChart } from "@mui/x-charts/BarChart";
import { LineChart } from "@mui/x-charts/LineChart";
import { ScatterChart } from "@mui/x-charts/ScatterChart";
import { useState } from "react";
import type { LogbookSummary } from "../api/client";
import { Panel } from "../shell/Panel";
import { useUnits } from "../shell/preferences";
import { shown, unitName } from "../units/units";
import { dotted, healthAlong, outside } from "./charts";
import { hours } from "./words";

const HEIGHT = 250;
const MARGIN = { left: 0, right: 16, top: 12, bottom: 4 };
const COLOURS = ["var(--wind)", "var(--care)", "var(--launch)", "var(--stay)", "var(--ground)"];
type Which = "months" | "wind" | "packs" | "plan";

/** What is quicker seen than read. */
export function LogbookCharts({ summary }: { summary: LogbookSummary }) {
  const units = useUnits();
  const [which, setWhich] = useState<Which>("plan");
  const { months, packs, points } = summary;
  if (months.length === 0) return null;
  const speed = unitName("speed", units);
  const planned = points.filter((p) => p.planned_pct != null);
  const windy = points.filter((p) => p.wind_ms != null);
  const series = healthAlong(points);
  const most = Math.max(20, ...planned.map((p) => 4 + Math.max(p.spent_pct, p.planned_pct!)));
  return (
    <Panel title="In pictures" hint={`${points.length} flights with time and charge`}>
      <ToggleButtonGroup
        exclusive
        fullWidth
        size="small"
        aria-label="Chart"
        value={which}
        onChange={(_, next: Which | null) => next && setWhich(next)}
      >
        <ToggleButton value="plan">Plan, actual</ToggleButton>
        <ToggleButton value="wind">Wind</ToggleButton>
        <ToggleButton value="packs">Batteries</ToggleButton>
        <ToggleButton value="months">Months</ToggleButton>
      </ToggleButtonGroup>
      {which === "plan" && (
        <>
          <ScatterChart
            height={HEIGHT}
            margin={MARGIN}
            grid={{ horizontal: true, vertical: true }}
            xAxis={[{ min: 0, max: most, label: "planned, % of charge", height: 48 }]}
            yAxis={[{ min: 0, max: most, label: "spent" }]}
            series={[
              {
                id: "band",
                label: "expected range",
                color: "var(--muted)",
                markerSize: 1.5,
                data: dotted(summary.band, most),
              },
              {
                id: "flights",
                label: "a flight",
                color: "var(--wind)",
                markerSize: 5,
                data: planned.map((p) => ({ x: p.planned_pct!, y: p.spent_pct, id: p.uid })),
              },
            ]}
          />
          <Typography variant="body2">
            {planned.length === 0
              ? "No flight with a plan yet."
              : `${outside(planned, summary.band)} of ${planned.length} flights used more than the expected range, ` +
                `${planned.filter((p) => p.spent_pct > p.planned_pct!).length} more than planned.`}
          </Typography>
        </>
      )}
      {which === "wind" && (
        <ScatterChart
          height={HEIGHT}
          margin={MARGIN}
          grid={{ horizontal: true }}
          xAxis={[{ min: 0, label: `wind, ${speed}`, height: 48 }]}
          yAxis={[{ min: 0, label: "% of charge a minute" }]}
          series={[
            {
              color: "var(--wind)",
              markerSize: 5,
              data: windy.map((p) => ({
                x: shown(p.wind_ms!, "speed", units),
                y: (60 * p.spent_pct) / p.seconds,
                id: p.uid,
              })),
            },
          ]}
        />
      )}
      {which === "packs" && (
        <>
          <LineChart
            height={HEIGHT}
            margin={MARGIN}
            grid={{ horizontal: true }}
            xAxis={[
              {
                data: series.flights,
                label: "flights of the battery",
                tickMinStep: 1,
                height: 48,
              },
            ]}
            yAxis={[{ label: "planned over spent, %" }]}
            series={series.packs.map((p, n) => ({
              label: p.pack,
              data: p.values,
              color: COLOURS[n % COLOURS.length]!,
              curve: "linear" as const,
            }))}
          />
          <Typography variant="body2">
            A battery whose line falls while the others stay level is wearing out.
          </Typography>
          <ul>
            {packs.map((p) => (
              <li key={p.name}>
                Pack {p.name || "without a label"}: {p.flights} flights, {hours(p.seconds)},{" "}
                {(p.spent_pct / 100).toFixed(1)} full charges
              </li>
            ))}
          </ul>
        </>
      )}
      {which === "months" && (
        <BarChart
          height={HEIGHT}
          margin={MARGIN}
          grid={{ horizontal: true }}
          xAxis={[{ scaleType: "band", data: months.map((m) => m.name) }]}
          yAxis={[{ label: "minutes in the air" }]}
          series={[{ data: months.map((m) => Math.round(m.seconds / 60)), color: "var(--wind)" }]}
        />
      )}
    </Panel>
  );
}
