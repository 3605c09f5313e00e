import { openDB, type DBSchema, type IDBPDatabase } from "idb";

/** What a photo is of. */
export type Of = { flight: string } | { place: number };

/** A photo that was taken on this device, until the server has it. */
export interface WaitingPhoto {
  uid: string;
  of: Of;
  /** By this device's clock. */
  taken_at: string;
  data: Blob;
  /** Why the server did not take it. */
  refused?: string;
}

interface Shelf extends DBSchema {
  photos: { key: string; value: WaitingPhoto };
}

let opening: Promise<IDBPDatabase<Shelf>> | null = null;

function database(): Promise<IDBPDatabase<Shelf>> {
  opening ??= openDB<Shelf>("lark.photos", 1, {
    upgrade(db) {
      db.createObjectStore("photos", { keyPath: "uid" });
    },
    blocking() {
      void opening?.then((db) => db.close());
      opening = null;
    },
  });
  opening.catch(() => (opening = null));
  return opening;
}

let known: readonly WaitingPhoto[] = [];
let read: Promise<void> | null = null;
const listeners = new Set<() => void>();

function tell(next: readonly WaitingPhoto[]) {
  known = next;
  for (const listener of listeners) listener();
}

/** Read what waits from the device, once in a window. */
export function readWaiting(): Promise<void> {
  read ??= database()
    .then((db) => db.getAll("photos"))
    .then(
      (all) => tell(all.sort((a, b) => a.taken_at.localeCompare(b.taken_at))),
      () => undefined, // a device that keeps nothing has nothing waiting
    );
  return read;
}

/** Photos that wait for the server, the first taken first. */
export const photosWaiting = () => known;

export function watchWaiting(listener: () => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** Keep a photo on this device. Whether it could be kept: it is shown and goes up all the same while this page is open. */
export async function keepPhoto(photo: WaitingPhoto): Promise<boolean> {
  tell([...known.filter(({ uid }) => uid !== photo.uid), photo]);
  try {
    await (await database()).put("photos", photo);
    return true;
  } catch {
    return false;
  }
}

export async function letGoOfPhoto(uid: string) {
  tell(known.filter((photo) => photo.uid !== uid));
  try {
    await (await database()).delete("photos", uid);
  } catch {
    // what was not kept need not be let go of
  }
}
