import type { Position } from "./position";

/** Where a photo says that it was taken, read on this device; null: it does not say. */
export async function positionOfPhoto(file: File): Promise<Position | null> {
  const { gps } = await import("exifr/dist/lite.esm.mjs");
  const found: unknown = await gps(file).catch(() => null);
  const at = found as Partial<Position> | null | undefined;
  return typeof at?.latitude === "number" &&
    typeof at.longitude === "number" &&
    Math.abs(at.latitude) <= 90 &&
    Math.abs(at.longitude) <= 180
    ? { latitude: at.latitude, longitude: at.longitude }
    : null;
}
