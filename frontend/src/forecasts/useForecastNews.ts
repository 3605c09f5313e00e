import { useEffect } from "react";
import { useNews } from "../api/forecasts";
import { foundWords } from "./words";
import { notifyOnce } from "../shell/notify";

/** Whatever page is open, a change of a session ahead is told where the browser allows it. */
export function useForecastNews() {
  const news = useNews();
  useEffect(() => {
    for (const { title, change } of news.data ?? [])
      notifyOnce(`${change.session_id} ${change.at}`, title, foundWords(change.found));
  }, [news.data]);
}
