import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { HomeNow } from "../api/homeward";
import type { CaseAhead, Room } from "../api/practice";
import type { HomeFlight } from "../homeward/tables";

/** What is on this device to practise with while the server is out of reach: cases, and the room as it was. */

interface KeptCase {
  family: string;
  seed: number;
  made: CaseAhead;
}

interface Ahead extends DBSchema {
  cases: { key: [string, number]; value: KeptCase };
  room: { key: string; value: { room: Room; at: string } };
  flights: { key: number; value: HomeFlight };
  homing: { key: string; value: HomeNow };
}

let opening: Promise<IDBPDatabase<Ahead>> | null = null;

function database(): Promise<IDBPDatabase<Ahead>> {
  opening ??= openDB<Ahead>("lark.practice", 2, {
    upgrade(db, from) {
      if (from < 1) {
        db.createObjectStore("cases", { keyPath: ["family", "seed"] });
        db.createObjectStore("room");
      }
      db.createObjectStore("flights", { keyPath: "seed" });
      db.createObjectStore("homing");
    },
    // Another window has a newer Lark: this one lets go, and opens it again when it needs to.
    blocking() {
      void opening?.then((db) => db.close());
      opening = null;
    },
  });
  opening.catch(() => (opening = null));
  return opening;
}

/** Put the cases of a family in place of those that were here. */
export async function putCases(family: string, cases: CaseAhead[]): Promise<void> {
  const change = (await database()).transaction("cases", "readwrite");
  await change.store.delete(IDBKeyRange.bound([family], [family, []]));
  await Promise.all(cases.map((made) => change.store.put({ family, seed: made.posed.seed, made })));
  await change.done;
}

/** A case that is here; null where it is not, or the device keeps nothing. */
export async function caseHere(family: string, seed: number): Promise<CaseAhead | null> {
  try {
    return (await (await database()).get("cases", [family, seed]))?.made ?? null;
  } catch {
    return null;
  }
}

/** Put flights to bring home in place of those that were here. */
export async function putFlights(flights: HomeFlight[]): Promise<void> {
  const change = (await database()).transaction("flights", "readwrite");
  await change.store.clear();
  await Promise.all(flights.map((flight) => change.store.put(flight)));
  await change.done;
}

/** A flight to bring home that is here; null where it is not, or the device keeps nothing. */
export async function flightHere(seed: number): Promise<HomeFlight | null> {
  try {
    return (await (await database()).get("flights", seed)) ?? null;
  } catch {
    return null;
  }
}

export async function keepHoming(now: HomeNow): Promise<void> {
  try {
    await (await database()).put("homing", now, "homing");
  } catch {
    // it is only for when the server is away
  }
}

/** How it went; the next flight is the first that is here and was not flown since. */
export async function keptHoming(flown: readonly number[] = []): Promise<HomeNow | null> {
  try {
    const db = await database();
    const now = await db.get("homing", "homing");
    if (!now) return null;
    const seeds = (await db.getAllKeys("flights")).sort((a, b) => a - b);
    return { ...now, seed: seeds.find((seed) => !flown.includes(seed)) ?? seeds[0] ?? now.seed };
  } catch {
    return null;
  }
}

/** The numbers of the cases that are here, by family. */
export async function seedsHere(): Promise<Map<string, number[]>> {
  const found = new Map<string, number[]>();
  try {
    for (const [family, seed] of await (await database()).getAllKeys("cases"))
      found.set(family, [...(found.get(family) ?? []), seed]);
  } catch {
    // nothing is kept here, then
  }
  return found;
}

export async function keepRoom(room: Room): Promise<void> {
  try {
    await (await database()).put("room", { room, at: new Date().toISOString() }, "room");
  } catch {
    // it is only for when the server is away
  }
}

export async function keptRoom(): Promise<Room | null> {
  try {
    return (await (await database()).get("room", "room"))?.room ?? null;
  } catch {
    return null;
  }
}

/**
 * The room while the server is away: the next case of each family is the first that is here and was not answered
 * since; what has none is not asked for. said: which cases were answered here, and are not with the server.
 */
export function roomAway(
  room: Room,
  here: ReadonlyMap<string, number[]>,
  said: readonly { family: string; seed: number }[],
): Room {
  const nextOf = (family: string) => {
    const done = new Set(said.filter((s) => s.family === family).map((s) => s.seed));
    return (here.get(family) ?? []).sort((a, b) => a - b).find((seed) => !done.has(seed));
  };
  const families = room.families.map((f) => {
    const seed = nextOf(f.key);
    return seed === undefined ? { ...f, none: true } : { ...f, seed, none: false };
  });
  const open = new Set(families.filter((f) => !f.none).map((f) => f.key));
  const answered = new Set(said.map((s) => s.family));
  const today = room.today.filter(({ family }) => open.has(family) && !answered.has(family));
  return { ...room, families, today };
}
