declare module "utm" {
  /** Throws a RangeError for what no zone has. */
  export function toLatLon(
    easting: number,
    northing: number,
    zone: number,
    band: string,
  ): { latitude: number; longitude: number };
}
