/** Codes out of pictures, read on this device. */

/** Longest sides that a picture is looked at by [px]: a reader that misses a code at one size finds it at another. */
export const SIZES_PX = [1_000, 1_500, 700] as const;

/** The text of the code in a picture, drawn so large; null: none is seen. */
export async function codeIn(
  picture: CanvasImageSource,
  width: number,
  height: number,
  longest_px: number,
): Promise<string | null> {
  const { default: jsQR } = await import("jsqr");
  const share = longest_px / Math.max(width, height, 1);
  const [w, h] = [Math.round(width * share), Math.round(height * share)];
  if (w === 0 || h === 0) return null;
  const canvas = document.createElement("canvas");
  canvas.width = w;
  canvas.height = h;
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (!context) return null;
  context.drawImage(picture, 0, 0, w, h);
  const found = jsQR(context.getImageData(0, 0, w, h).data, w, h);
  return found?.data ? found.data : null;
}

/** The text of the code in a photo; null: none is seen, or it is no picture. */
export async function codeInPhoto(file: File): Promise<string | null> {
  try {
    const picture = await createImageBitmap(file);
    for (const size of SIZES_PX) {
      const text = await codeIn(picture, picture.width, picture.height, size);
      if (text !== null) return text;
    }
    return null;
  } catch {
    return null;
  }
}
