import L from "leaflet";
import { useEffect } from "react";
import { useMap } from "react-leaflet";

/** Map data are named where they are shown, as their licence asks. Plain text: it may be a stranger's. */
export function useAttribution(words: string | null) {
  const map = useMap();
  useEffect(() => {
    if (!words) return;
    const line = L.control.attribution({ prefix: false });
    const safe = document.createElement("span");
    safe.textContent = words;
    line.addAttribution(safe.innerHTML).addTo(map);
    return () => void line.remove();
  }, [map, words]);
}
