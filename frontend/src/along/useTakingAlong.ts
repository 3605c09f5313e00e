import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect } from "react";
import { client, take } from "../api/client";
import { onSaved } from "../editing/opened";
import { useUnits } from "../shell/preferences";
import { useTrying } from "../shell/useTrying";
import type { Units } from "../units/units";
import { awayNow, useAway } from "./away";
import { allTaken } from "./store";
import { tablesByThemselves, takeAlong } from "./takeAlong";

const AHEAD_MS = 48 * 3600_000;
const OVER_MS = 12 * 3600_000;
const FRESH_MS = 30 * 60_000;
const FIRST_MS = 8_000;
const EVERY_MS = 5 * 60_000;
const AFTER_SAVE_MS = 15_000;

/** Take along what flies within two days, and renew what is along and has changed or is half an hour old. */
async function takeWhatIsDue(units: Units, now: number) {
  if (awayNow()) return;
  const query = { ...units, find: "", page: 1 };
  const { sessions } = await take(client.GET("/api/sessions", { params: { query } }));
  if (awayNow()) return;
  const along = new Map((await allTaken()).map((taken) => [taken.session, taken]));
  for (const session of sessions) {
    const ahead = Date.parse(session.takeoff_at) - now;
    const taken = along.get(session.id);
    const soon = ahead < AHEAD_MS && ahead > -OVER_MS;
    const same = taken !== undefined && taken.revision === session.revision;
    if (!soon && (!taken || same)) continue;
    const fresh = same && now - Date.parse(taken.at) < FRESH_MS;
    if (!fresh) await takeAlong(session.id, units, tablesByThemselves());
  }
}

/** Whatever page is open: what is wanted in the field comes along by itself. */
export function useTakingAlong() {
  const units = useUnits();
  useEffect(() => {
    const go = () => void takeWhatIsDue(units, Date.now()).catch(() => undefined);
    const first = setTimeout(go, FIRST_MS);
    const timer = setInterval(go, EVERY_MS);
    let saved: ReturnType<typeof setTimeout> | undefined;
    const forget = onSaved(() => {
      clearTimeout(saved);
      saved = setTimeout(go, AFTER_SAVE_MS);
    });
    return () => {
      clearTimeout(first);
      clearTimeout(saved);
      clearInterval(timer);
      forget();
    };
  }, [units]);
}

/** While the server is out of reach it is asked for; once it is back, everything shown is asked for again. */
export function useComingBack() {
  const queries = useQueryClient();
  const away = useAway() !== null;
  const look = useCallback(() => {
    if (awayNow()) void client.GET("/api/health").catch(() => undefined);
  }, []);
  useTrying(look);
  useEffect(() => {
    if (!away) return;
    return () => void queries.invalidateQueries();
  }, [away, queries]);
}
