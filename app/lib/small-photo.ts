/** Longest side of a stored photo in pixels: enough to read a part label, small enough for a workshop's network. */
const LONGEST = 1800;
const QUALITY = 0.82;

/** A photo as JPEG with its longer side at most `LONGEST`; the file itself where the browser cannot draw it. */
export async function smallPhoto(file: File): Promise<Blob> {
  try {
    const bitmap = await createImageBitmap(file, { imageOrientation: "from-image" });
    const scale = Math.min(1, LONGEST / Math.max(bitmap.width, bitmap.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.round(bitmap.width * scale);
    canvas.height = Math.round(bitmap.height * scale);
    canvas.getContext("2d")?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
    const small = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", QUALITY));
    return small ?? file;
  } catch {
    // Not decodable here; the server looks at it and says what is wrong.
    return file;
  }
}
