import { useCallback, useEffect, useRef } from "react";
import type { Plan } from "../../../api/client";
import { useWeatherActions } from "../../../api/weather";
import { backToForecast, followed, withoutForecast } from "./followed";

/** The weather of a plan out of the forecast that it names: for another time, or for all figures again. */
export function useForecast(plan: Plan, replace: (plan: Plan) => void) {
  const { fill } = useWeatherActions();
  const { mutate } = fill;
  // The answer comes later than the question, and belongs to the plan as it is then.
  const latest = useRef({ plan, replace });
  useEffect(() => {
    latest.current = { plan, replace };
  });
  const ask = useCallback(
    (report: number, takeoff_at: string, put: (plan: Plan, weather: Plan["weather"]) => Plan) => {
      const still = () => {
        const now = latest.current;
        return now.plan.takeoff_at === takeoff_at ? now : null;
      };
      mutate(
        { report, takeoff_at, plan: latest.current.plan },
        {
          onSuccess: ({ weather }) => {
            const now = still();
            if (now) now.replace(put(now.plan, weather));
          },
          onError: () => {
            // Refused or out of reach: what the forecast said of another time is not said of this one.
            const now = still();
            if (now) now.replace(withoutForecast(now.plan));
          },
        },
      );
    },
    [mutate],
  );
  return {
    /** The take-off was moved: the weather follows. */
    follow: useCallback(
      (takeoff_at: string) => {
        const { report } = latest.current.plan.weather;
        if (report != null) ask(report, takeoff_at, followed);
      },
      [ask],
    ),
    back: useCallback(() => {
      const { weather, takeoff_at } = latest.current.plan;
      if (weather.report != null) ask(weather.report, takeoff_at, backToForecast);
    }, [ask]),
  };
}
