import type { Plan } from "../../../api/client";
import { byHand } from "../evidence";

type Weather = Plan["weather"];

/** The forecast's weather in a plan, but for what the pilot typed, measured or read: that stays. */
export function followed(plan: Plan, forecast: Weather): Plan {
  const weather: Record<string, unknown> = { ...forecast };
  const stays = byHand(plan);
  for (const figure of stays) weather[figure] = plan.weather[figure as keyof Weather];
  const provenance = (forecast.provenance ?? []).filter((p) => !stays.includes(p.figure));
  return { ...plan, weather: { ...(weather as Weather), provenance } };
}

/** The same with the forecast's own figures for all that it says. */
export function backToForecast(plan: Plan, forecast: Weather): Plan {
  const evidence = Object.fromEntries(
    Object.entries(plan.evidence ?? {}).filter(([key]) => !key.startsWith("weather.")),
  );
  return { ...plan, weather: forecast, evidence };
}

/** A plan at a time of which its forecast says nothing: its figures are nobody's any more. */
export function withoutForecast(plan: Plan): Plan {
  return { ...plan, weather: { ...plan.weather, report: null, provenance: [] } };
}
