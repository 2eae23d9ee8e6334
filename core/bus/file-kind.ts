import { HEAD_BYTES, LOG_FORMATS, logFormat } from "./log";

export type BusFileKind = "log" | "dbc";

/** What a bus file is meant to be, by its name: a bus description ends in .dbc, everything else is a log. */
export function meantAs(name: string): BusFileKind {
  return /\.dbc(\.gz)?$/i.test(name) ? "dbc" : "log";
}

/** Endings of the files that are read, with the dot. */
export const BUS_FILE_ENDINGS: readonly string[] = [
  ...new Set(["dbc", "gz", ...LOG_FORMATS.flatMap((f) => f.endings)]),
].map((e) => `.${e}`);

/** Why a file cannot be what its name says, by its unpacked beginning; null when it can. */
export function notRead(name: string, head: Uint8Array): string | null {
  const start = head.subarray(0, HEAD_BYTES);
  if (meantAs(name) === "dbc")
    return /^\s*(VERSION|NS_|BS_|BU_|BO_)/m.test(new TextDecoder().decode(start))
      ? null
      : `${name} is not read: a bus description has lines such as “BO_ 288 KeyState: 4 Body”. Choose another file; nothing was stored.`;
  if (logFormat(start)) return null;
  const forms = LOG_FORMATS.map((f) => `${f.name} (${f.about})`).join(", ");
  return `${name} is not read: it has none of the forms of a log that are known: ${forms}. Choose another file; nothing was stored.`;
}
