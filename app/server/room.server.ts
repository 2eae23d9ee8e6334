import { statfs } from "node:fs/promises";
import { data } from "react-router";

/** Below this the server takes no more files: what people tick and type still finds room. */
const FLOOR_BYTES = Number(process.env.ITERON_FLOOR_MB ?? 500) * 1_000_000;
/** Room is measured once in so long. */
const MEASURED_MS = 2000;

let measured: { at: number; bytes: number } | null = null;

/** Bytes that are left where the database lies; null where it lies on another machine. */
async function freeBytes(): Promise<number | null> {
  const folder = process.env.ITERON_DATA;
  if (!folder) return null;
  if (!measured || Date.now() - measured.at > MEASURED_MS) {
    const { bavail, bsize } = await statfs(folder);
    measured = { at: Date.now(), bytes: bavail * bsize };
  }
  return measured.bytes;
}

/**
 * Refuses a file before it is read when the disk would run full.
 *
 * @throws 507 as answer of a route
 */
export async function requireRoom(bytes: number): Promise<void> {
  const free = await freeBytes();
  if (free === null || free - bytes >= FLOOR_BYTES) return;
  throw data(
    {
      ok: false as const,
      status: 507,
      message: `The disk of the server is nearly full (${Math.max(0, Math.floor(free / 1_000_000))} MB left): no more files are taken. Tell whoever runs it; nothing was stored.`,
    },
    { status: 507 },
  );
}
