/** Most pixels along a side of what goes up; the server keeps no more either. */
const MOST_PX = 1_600;
const QUALITY = 0.85;

/**
 * A photo as small as the logbook keeps it, made on this device: it takes little room and goes up on bad reception.
 * What cannot be read here goes as it is, for the server to name what is wrong with it.
 */
export async function smaller(file: File): Promise<Blob> {
  try {
    const picture = await createImageBitmap(file, { imageOrientation: "from-image" });
    const share = Math.min(1, MOST_PX / Math.max(picture.width, picture.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.round(picture.width * share);
    canvas.height = Math.round(picture.height * share);
    canvas.getContext("2d")!.drawImage(picture, 0, 0, canvas.width, canvas.height);
    const made = await new Promise<Blob | null>((done) =>
      canvas.toBlob(done, "image/jpeg", QUALITY),
    );
    return made ?? file;
  } catch {
    return file;
  }
}
