/** The invented bog, drawn by what open data know of it: the files ship with Lark and go the way of the pilot's own. */
import mapFile from "../../../examples/sarvik-map.osm?url&no-inline";
import pictureFile from "../../../examples/sarvik-picture.tif?url&no-inline";
import surfaceFile from "../../../examples/sarvik-surface.tif?url&no-inline";
import terrainFile from "../../../examples/sarvik-terrain.tif?url&no-inline";
import { client, Problem, take } from "../api/client";
import { lookAtMap, sendFile } from "../api/places";
import { merged, taken, type Group } from "./mapData";
import { newPlace } from "./newPlace";

const AT = { latitude: 58.62, longitude: 25.08 };

async function shipped(address: string, name: string): Promise<File> {
  const answer = await fetch(address).catch(() => null);
  if (!answer?.ok) throw new Problem(0, "The example’s files couldn’t be loaded. Try again.");
  return new File([await answer.blob()], name);
}

/** Make the example place, step by step as a pilot would; its number. */
export async function makeExample(): Promise<number> {
  const made = await take(
    client.POST("/api/places", { body: newPlace("Example from open data", AT) }),
  );
  const { id } = made;
  let { revision } = made;
  for (const [kind, address] of [
    ["terrain", terrainFile],
    ["surface", surfaceFile],
    ["picture", pictureFile],
  ] as const) {
    const file = await shipped(address, `sarvik-${kind}.tif`);
    ({ revision } = await sendFile(id, kind, file, revision, null));
  }
  const seen = await lookAtMap(id, await shipped(mapFile, "sarvik-map.osm"));
  const groups = new Set<Group>(seen.things.map((thing) => thing.group));
  seen.left_out_first.forEach((group) => groups.delete(group as Group));
  const path = { path: { place_id: id } };
  const { place } = await take(client.GET("/api/places/{place_id}", { params: path }));
  const features = merged(place.features, taken(seen, groups));
  await take(
    client.PUT("/api/places/{place_id}", {
      params: path,
      body: { revision, place: { ...place, features } },
    }),
  );
  return id;
}
