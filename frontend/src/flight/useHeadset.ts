import { useEffect } from "react";

const KEYS = new Set([
  "MediaPlayPause",
  "MediaPlay",
  "MediaPause",
  "MediaTrackNext",
  "HeadsetHook",
  "AudioVolumeUp",
  "AudioVolumeDown",
]);
const ACTIONS: MediaSessionAction[] = ["play", "pause", "nexttrack"];

/** A headset's button or a volume key does something, in browsers that hand them on; null: nothing. */
export function useHeadset(go: (() => void) | null) {
  useEffect(() => {
    if (!go) return;
    const key = (event: KeyboardEvent) => {
      if (KEYS.has(event.key)) go();
    };
    const media = "mediaSession" in navigator ? navigator.mediaSession : null;
    window.addEventListener("keydown", key);
    for (const action of ACTIONS) media?.setActionHandler(action, go);
    return () => {
      window.removeEventListener("keydown", key);
      for (const action of ACTIONS) media?.setActionHandler(action, null);
    };
  }, [go]);
}
