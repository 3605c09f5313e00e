import { Problem, type Place } from "../api/client";

export const PLACE_FILE = ".json,application/json";

/** What a place file says; what is wrong in it is for the server to name. Throws a Problem where it is no JSON. */
export async function readPlaceFile(file: File): Promise<Place> {
  const raw = await file.text();
  try {
    return JSON.parse(raw) as Place;
  } catch {
    throw new Problem(0, `${file.name} isn’t a place file (not JSON). Nothing was imported.`);
  }
}
