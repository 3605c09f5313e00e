import { client, take, type Aircraft, type Kept, type KitItem, type Session } from "../api/client";
import { same } from "../editing/merge";
import { readPosition } from "../inputs/position";
import { NEW } from "../gear/items";
import { aircraftOf, labels, planOf, type Draft } from "./draft";

const NOMINAL_V = 3.85;

const kitNow = async () => (await take(client.GET("/api/kit"))).items;
const header = (key: string) => ({ "Idempotency-Key": key });

/** The labels that batteries of the kit have already. */
export const labelsIn = (kit: Kept[]) =>
  kit.flatMap((k) => (k.item.kind === "pack" ? [k.item.label] : []));

/** A battery as it was said; one whose charge was not said begins as new ones do. */
function batteryOf(draft: Draft, label: string, aircraft: Kept): KitItem {
  const fresh = NEW.pack(aircraft);
  if (fresh.kind !== "pack" || aircraft.item.kind !== "aircraft") throw new Error("no battery");
  const { battery_wh } = aircraft.item.aircraft;
  const capacity_mah = Math.round((battery_wh / draft.cells / NOMINAL_V) * 1000);
  const said =
    draft.charge_pct === null
      ? {}
      : {
          charge_pct: draft.charge_pct,
          state: draft.charge_pct === 100 ? ("full" as const) : ("partly" as const),
        };
  return { ...fresh, ...said, label, cells: draft.cells, capacity_mah };
}

/** An item of the kit as it is wanted. One that an earlier try made is corrected by what was said since. */
async function inKit(key: string, wanted: KitItem): Promise<Kept> {
  const made = await take(
    client.POST("/api/kit", { body: { item: wanted }, headers: header(key) }),
  );
  const kept = (await kitNow()).find((k) => k.id === made.id);
  if (!kept) return made;
  // The label that it got at first is the one that the pilot was told.
  const item =
    wanted.kind === "pack" && kept.item.kind === "pack"
      ? { ...wanted, label: kept.item.label, charged_at: kept.item.charged_at }
      : wanted;
  if (same({ ...kept.item, ...item }, kept.item)) return kept;
  return take(
    client.PUT("/api/kit/{item_id}", {
      params: { path: { item_id: kept.id } },
      body: { item, revision: kept.revision },
    }),
  );
}

/**
 * Put what was said into the kit and begin the session. Each request has a key of its own: where one fails, the next
 * try goes on from there and makes nothing twice, and what was changed in between counts.
 */
export async function makeAll(
  draft: Draft,
  typical: Aircraft,
  takeoffAt: string,
): Promise<Session> {
  const free = labels(draft.packs, labelsIn(await kitNow()));
  const aircraft = aircraftOf(draft, typical);
  const mine = await inKit(`${draft.key}-aircraft`, { kind: "aircraft", note: "", aircraft });
  let first: number | null = null;
  for (const [n, label] of free.entries()) {
    const pack = await inKit(`${draft.key}-battery-${n}`, batteryOf(draft, label, mine));
    first ??= pack.id;
  }
  const at = readPosition(draft.position)!;
  const name = draft.place.trim();
  const begun = await take(
    client.POST("/api/sessions", {
      headers: header(`${draft.asked}-session`),
      body: {
        title: `First flight at ${name}`,
        takeoff_at: takeoffAt,
        place: { name, ...at },
        start_from: null,
        at_place: draft.drawn,
        setting: null,
        aircraft: mine.id,
        pack: first,
      },
    }),
  );
  return take(
    client.PUT("/api/sessions/{session_id}", {
      params: { path: { session_id: begun.id } },
      headers: header(`${draft.asked}-plan`),
      body: { plan: planOf(draft, begun.plan, new Date()), revision: begun.revision },
    }),
  );
}
