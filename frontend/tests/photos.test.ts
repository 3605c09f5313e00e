import "fake-indexeddb/auto";
import { beforeEach, describe, expect, it } from "vitest";
import { Problem } from "../src/api/client";
import { sendPhotos } from "../src/photos/sending";
import { keepPhoto, letGoOfPhoto, photosWaiting, type WaitingPhoto } from "../src/photos/waiting";

const photo = (uid: string, flight: string): WaitingPhoto => ({
  uid,
  of: { flight },
  taken_at: "2026-09-27T04:00:00Z",
  data: new Blob(["x"], { type: "image/jpeg" }),
});

describe("photos that wait for the server", () => {
  const sent: string[] = [];
  const put = (one: WaitingPhoto) => {
    sent.push(one.uid);
    return Promise.resolve();
  };
  beforeEach(async () => {
    sent.length = 0;
    for (const { uid } of photosWaiting()) await letGoOfPhoto(uid);
    await keepPhoto(photo("a", "one"));
    await keepPhoto(photo("b", "two"));
  });
  const waiting = () => photosWaiting().map(({ uid }) => uid);

  it("go up once, and are let go of", async () => {
    expect(await sendPhotos(put, () => [])).toBe(true);
    expect(await sendPhotos(put, () => [])).toBe(false);
    expect(sent).toEqual(["a", "b"]);
    expect(waiting()).toEqual([]);
  });

  it("wait for the flight that they are of", async () => {
    await sendPhotos(put, () => [{ uid: "one" }]);
    expect(sent).toEqual(["b"]);
    expect(waiting()).toEqual(["a"]);
  });

  it("stay while the server is away", async () => {
    const away = () => Promise.reject(new Problem(0, "out of reach"));
    expect(await sendPhotos(away, () => [])).toBe(false);
    expect(waiting()).toEqual(["a", "b"]);
  });

  it("stay with the reason where they are refused, and hold up no other", async () => {
    const picky = (one: WaitingPhoto) =>
      one.uid === "a" ? Promise.reject(new Problem(422, "no photo")) : put(one);
    await sendPhotos(picky, () => []);
    expect(photosWaiting()).toMatchObject([{ uid: "a", refused: "no photo" }]);
    await sendPhotos(picky, () => []);
    expect(sent).toEqual(["b"]);
  });
});
