/** The control units of stand-in cars, kept in the database: a session goes on through any server. */
import { z } from "zod";
import type { StandInUnits } from "../sim/control-units";
import type { Database, Sql } from "./database";

/** Units with who talks to them. */
export interface HeldUnits {
  units: StandInUnits;
  /** Who sent the last frame, and when (milliseconds since 1970). */
  tester: { id: string; name: string; atMs: number } | null;
}

/** The units as they were left; null before anybody has talked to them. */
export async function heldUnits(sql: Sql, shopId: string, jobId: string): Promise<HeldUnits | null> {
  const [row] = await sql.rows(
    z.object({ units: z.string().nullable() }),
    "SELECT units FROM stand_in WHERE shop_id = ? AND job_id = ?",
    [shopId, jobId],
  );
  return row?.units ? (JSON.parse(row.units) as HeldUnits) : null;
}

/**
 * Changes the units of a job's stand-in car; two at once come one after the other.
 *
 * @param change gets null before anybody has talked to them; what it returns is stored
 */
export function changeUnits<T>(
  db: Database,
  shopId: string,
  jobId: string,
  change: (held: HeldUnits | null) => { held: HeldUnits; result: T } | { held: null; result: T },
): Promise<T> {
  return db.transaction(async (sql) => {
    const [row] = await sql.rows(
      z.object({ units: z.string().nullable() }),
      "SELECT units FROM stand_in WHERE shop_id = ? AND job_id = ? FOR UPDATE",
      [shopId, jobId],
    );
    const { held, result } = change(row?.units ? (JSON.parse(row.units) as HeldUnits) : null);
    if (held)
      await sql.run("UPDATE stand_in SET units = ? WHERE shop_id = ? AND job_id = ?", [
        JSON.stringify(held),
        shopId,
        jobId,
      ]);
    return result;
  });
}
