/** Kinds of pictures that a browser shows and a camera makes. */
export type PhotoType = "image/jpeg" | "image/png" | "image/webp";

/** Largest photo taken; the browser makes it smaller before it is sent. */
export const PHOTO_LIMIT_BYTES = 12_000_000;

/** Largest photo of a document of the library. */
export const LIBRARY_PHOTO_LIMIT_BYTES = 2_000_000;

const JPEG = [0xff, 0xd8, 0xff];
const PNG = [0x89, 0x50, 0x4e, 0x47];

/** The type of a picture by its first bytes, whatever its name says; null when it is none. */
export function photoType(head: Uint8Array): PhotoType | null {
  const begins = (bytes: readonly number[], at = 0) => bytes.every((b, i) => head[at + i] === b);
  if (begins(JPEG)) return "image/jpeg";
  if (begins(PNG)) return "image/png";
  const text = (at: number) => String.fromCharCode(...head.subarray(at, at + 4));
  return text(0) === "RIFF" && text(8) === "WEBP" ? "image/webp" : null;
}
