import { useEffect, useState } from "react";

/** What a browser says of the device's own battery; level: from 0 to 1. */
interface Battery extends EventTarget {
  level: number;
  charging: boolean;
}

/** Under this the device may not last the flights and the way back [%]; assumed. */
export const LOW_PCT = 30;

/** The charge of this device [%], and whether it is charging; null where the browser does not say. */
export function useOwnBattery(): { charge_pct: number; charging: boolean } | null {
  const [found, setFound] = useState<{ charge_pct: number; charging: boolean } | null>(null);
  useEffect(() => {
    const asking = navigator as Navigator & { getBattery?: () => Promise<Battery> };
    let battery: Battery | null = null;
    const tell = () =>
      battery && setFound({ charge_pct: 100 * battery.level, charging: battery.charging });
    asking.getBattery?.().then(
      (given) => {
        battery = given;
        tell();
        given.addEventListener("levelchange", tell);
        given.addEventListener("chargingchange", tell);
      },
      () => undefined,
    );
    return () => {
      battery?.removeEventListener("levelchange", tell);
      battery?.removeEventListener("chargingchange", tell);
      battery = null;
    };
  }, []);
  return found;
}
