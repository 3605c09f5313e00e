import { useCallback, useEffect, useState } from "react";
import { pointing, type Pointing, type Turned } from "./sensing";

/** A position by the device's own receiver; accuracy_m holds it about two times in three. */
export interface Fix {
  lat: number;
  lon: number;
  accuracy_m: number;
}

/** The device's position while it is asked for; why there is none. */
export function usePosition(asked: boolean): { fix: Fix | null; refused: string | null } {
  const [fix, setFix] = useState<Fix | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  // Without a secure address there is no such thing to ask.
  const sensor = "geolocation" in navigator ? navigator.geolocation : undefined;
  useEffect(() => {
    if (!asked || !sensor) return;
    const watching = sensor.watchPosition(
      ({ coords }) => {
        setRefused(null);
        setFix({ lat: coords.latitude, lon: coords.longitude, accuracy_m: coords.accuracy });
      },
      (error) =>
        setRefused(
          error.code === error.PERMISSION_DENIED
            ? "Lark may not read the position. Allow it in the browser’s settings for this page."
            : "No position yet. Step clear of roofs and trees.",
        ),
      { enableHighAccuracy: true, maximumAge: 2_000 },
    );
    return () => sensor.clearWatch(watching);
  }, [asked, sensor]);
  return { fix, refused: sensor ? refused : "This browser gives no position here." };
}

interface Asking {
  requestPermission?: () => Promise<"granted" | "denied">;
}

/** Where the back of the device points, once it was asked for by a touch. */
export function usePointing(): {
  pointing: Pointing | null;
  asked: boolean;
  refused: string | null;
  ask: () => void;
} {
  const [asked, setAsked] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const [found, setFound] = useState<Pointing | null>(null);
  const ask = useCallback(() => {
    if (typeof DeviceOrientationEvent === "undefined")
      return setRefused("This device has no compass that a page may read.");
    const asking = DeviceOrientationEvent as unknown as Asking;
    const allowed = asking.requestPermission?.() ?? Promise.resolve("granted" as const);
    allowed.then(
      (word) =>
        word === "granted"
          ? setAsked(true)
          : setRefused("Lark may not read how the device is turned."),
      () => setRefused("Lark may not read how the device is turned."),
    );
  }, []);
  useEffect(() => {
    if (!asked) return;
    const turned = (event: Event) => {
      const now = pointing(event as unknown as Turned);
      // A browser that knows no north says so by another event beside the one that does.
      if (now) setFound(now);
    };
    window.addEventListener("deviceorientationabsolute", turned);
    window.addEventListener("deviceorientation", turned);
    return () => {
      window.removeEventListener("deviceorientationabsolute", turned);
      window.removeEventListener("deviceorientation", turned);
    };
  }, [asked]);
  return { pointing: found, asked, refused, ask };
}
