/** Read logs kept in the browser's own storage, so that coming back to one parses nothing again. For workers only. */
import { packFrames, unpackFrames } from "~/core/bus/frames";
import type { ParsedLog } from "~/core/bus/log";

const FOLDER = "bus-logs";
/** Changes with the form of what is kept; older ones are removed. */
const FORM = "v2";
/** Logs kept beside each other; the one not used for longest goes. */
const KEPT = 6;

/** Written at once. */
const PIECE_BYTES = 4_000_000;

/** A read log with what was computed of it. */
export interface KeptLog<Facts> {
  log: ParsedLog;
  facts: Facts;
}

type Head<Facts> = Omit<ParsedLog, "frames"> & {
  facts: Facts;
  frames: { count: number; dataBytes: number; channels: string[] };
};

/** The read log of a file; null when it is not kept, or not whole. */
export async function keptLog<Facts>(file: string): Promise<KeptLog<Facts> | null> {
  try {
    const handle = await (await folder()).getFileHandle(`${file}.${FORM}`);
    const access = await handle.createSyncAccessHandle();
    try {
      const buffer = new ArrayBuffer(access.getSize());
      if (access.read(buffer, { at: 0 }) !== buffer.byteLength || buffer.byteLength < 8) return null;
      const [headBytes = 0, whole = 0] = new Uint32Array(buffer, 0, 2);
      // Written last: a log whose writing broke off does not have it.
      if (whole !== 1) return null;
      const { facts, ...head }: Head<Facts> = JSON.parse(
        new TextDecoder().decode(new Uint8Array(buffer, 8, headBytes)),
      );
      return { log: { ...head, frames: unpackFrames(head.frames, buffer, 8 + aligned(headBytes)) }, facts };
    } finally {
      access.close();
    }
  } catch {
    return null;
  }
}

/** Keeps a read log. That there is no room, or another tab is writing it, is no reason to stop. */
export async function keepLog<Facts>(file: string, { log, facts }: KeptLog<Facts>): Promise<void> {
  try {
    const home = await folder();
    await makeRoom(home);
    const handle = await home.getFileHandle(`${file}.${FORM}`, { create: true });
    const access = await handle.createSyncAccessHandle();
    try {
      const { head, parts } = packFrames(log.frames);
      const text = new TextEncoder().encode(JSON.stringify({ ...log, facts, frames: head } satisfies Head<Facts>));
      access.truncate(0);
      let at = 8;
      access.write(text, { at });
      at += aligned(text.length);
      for (const part of parts) {
        for (let from = 0; from < part.length; from += PIECE_BYTES) {
          at += access.write(part.subarray(from, from + PIECE_BYTES) as Uint8Array<ArrayBuffer>, { at });
          // What the page asks meanwhile is answered in between.
          await new Promise((resume) => setTimeout(resume));
        }
      }
      access.write(new Uint32Array([text.length, 1]), { at: 0 });
      access.flush();
    } finally {
      access.close();
    }
  } catch {
    // The log is read; it will be read again next time.
  }
}

async function folder(): Promise<FileSystemDirectoryHandle> {
  return (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER, { create: true });
}

async function makeRoom(home: FileSystemDirectoryHandle): Promise<void> {
  const files: { name: string; at: number }[] = [];
  for await (const [name, handle] of home as unknown as AsyncIterable<[string, FileSystemFileHandle]>)
    files.push({ name, at: (await handle.getFile()).lastModified });
  files.sort((a, b) => b.at - a.at);
  for (const [i, { name }] of files.entries())
    if (i >= KEPT - 1 || !name.endsWith(`.${FORM}`)) await home.removeEntry(name).catch(() => undefined);
}

function aligned(bytes: number): number {
  return bytes + ((8 - (bytes % 8)) % 8);
}
