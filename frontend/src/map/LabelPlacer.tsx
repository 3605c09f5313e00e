import { useEffect } from "react";
import { useMap } from "react-leaflet";
import { placed } from "./labels";

/** Keeps the names of the marks on a plan view apart, whenever it moves or marks come and go. */
export function LabelPlacer() {
  const map = useMap();
  useEffect(() => {
    const pane = map.getPane("markerPane")!;
    let asked = 0;
    const place = () => {
      asked = 0;
      const names = [...pane.querySelectorAll<HTMLElement>(".spot b")];
      const frame = map.getContainer().getBoundingClientRect();
      const marks = names.map((name) => name.parentElement!.getBoundingClientRect());
      const labels = names.map((name, i) => ({
        x: marks[i]!.left + marks[i]!.width / 2 - frame.left,
        y: marks[i]!.top + marks[i]!.height / 2 - frame.top,
        reach: name.dataset.strong ? 16 : 12,
        width: name.offsetWidth,
        height: name.offsetHeight,
        strong: name.dataset.strong === "1",
      }));
      placed(labels, frame).forEach((box, i) => {
        const { style } = names[i]!;
        style.visibility = box ? "" : "hidden";
        if (!box) return;
        style.left = `${box.left + frame.left - marks[i]!.left}px`;
        style.top = `${box.top + frame.top - marks[i]!.top}px`;
      });
      watcher.takeRecords(); // what was just moved is no news
    };
    const soon = () => (asked ||= requestAnimationFrame(place));
    const watcher = new MutationObserver(soon);
    watcher.observe(pane, { childList: true, subtree: true, attributes: true });
    map.on("moveend zoomend resize", soon);
    soon();
    return () => {
      cancelAnimationFrame(asked);
      watcher.disconnect();
      map.off("moveend zoomend resize", soon);
    };
  }, [map]);
  return null;
}
