import type { Place } from "../api/client";

/** A place with a take-off point and nothing else. */
export const newPlace = (name: string, at: { latitude: number; longitude: number }): Place => ({
  name,
  features: [
    {
      id: "f1",
      role: "takeoff",
      name: "",
      shape: "point",
      coordinates: [[at.longitude, at.latitude]],
      kind: null,
      height_m: 0,
      radius_m: null,
      note: "",
      origin: null,
    },
  ],
  zones: [],
  zones_looked_at: null,
  terrain: null,
  surface: null,
  picture: null,
});
