/** Hexadecimal digits of logs, read and written. */

/** Value of a hexadecimal digit by character code, 255 for others. */
export const HEX = Uint8Array.from({ length: 256 }, (_, c) => {
  if (c >= 48 && c <= 57) return c - 48;
  if (c >= 65 && c <= 70) return c - 55;
  return c >= 97 && c <= 102 ? c - 87 : 255;
});

/** Value of two hexadecimal digits by their character codes, the first one times 256; -1 where one is none. */
export const HEX_PAIR = Int16Array.from({ length: 65_536 }, (_, pair) => {
  const [high, low] = [HEX[pair >> 8] as number, HEX[pair & 255] as number];
  return high < 16 && low < 16 ? 16 * high + low : -1;
});

const WRITTEN = Array.from({ length: 256 }, (_, b) => b.toString(16).toUpperCase().padStart(2, "0"));

/** Two hexadecimal digits a byte. */
export function hexOf(data: Uint8Array, separator = ""): string {
  let text = "";
  for (let i = 0; i < data.length; i++) text += (i > 0 ? separator : "") + (WRITTEN[data[i] as number] as string);
  return text;
}
