import { client, take, type Aircraft, type KitItem, type Session } from "../api/client";
import { readPosition } from "../inputs/position";
import { NEW } from "../kit/items";
import { aircraftOf, labels, planOf, type Draft } from "./draft";

const NOMINAL_V = 3.85;

/**
 * Put what was said into the kit and begin the session. Each request has a key of its own: where one fails, the next
 * try goes on from there and makes nothing twice.
 */
export async function makeAll(
  draft: Draft,
  typical: Aircraft,
  takeoffAt: string,
): Promise<Session> {
  const once = (what: string) => ({ "Idempotency-Key": `${draft.key}-${what}` });
  const add = (item: KitItem, what: string) =>
    take(client.POST("/api/kit", { body: { item }, headers: once(what) }));
  const aircraft = aircraftOf(draft, typical);
  const mine = await add({ kind: "aircraft", note: "", aircraft }, "aircraft");
  let first: number | null = null;
  for (const label of labels(draft.packs)) {
    const fresh = NEW.pack(mine);
    if (fresh.kind !== "pack") continue;
    const capacity_mah = Math.round((aircraft.battery_wh / draft.cells / NOMINAL_V) * 1000);
    const charge =
      draft.charge_pct === null ? {} : { charge_pct: draft.charge_pct, state: "full" as const };
    const pack = await add(
      { ...fresh, ...charge, label, cells: draft.cells, capacity_mah },
      `battery-${label}`,
    );
    first ??= pack.id;
  }
  const at = readPosition(draft.position)!;
  const name = draft.place.trim();
  const begun = await take(
    client.POST("/api/sessions", {
      headers: once("session"),
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
      headers: once("plan"),
      body: { plan: planOf(draft, begun.plan, new Date()), revision: begun.revision },
    }),
  );
}
