import { z } from "zod";
import type { Sql } from "./database";

/** Small material on the shop's shelf, by what it is. */
export async function stockOf(sql: Sql, shopId: string): Promise<Record<string, number>> {
  const rows = await sql.rows(
    z.object({ what: z.string(), amount: z.coerce.number() }),
    "SELECT what, amount FROM shop_stock WHERE shop_id = ?",
    [shopId],
  );
  return Object.fromEntries(rows.map((r) => [r.what, r.amount]));
}

/** Notes what was counted on the shelf. */
export async function countStock(
  sql: Sql,
  shopId: string,
  counted: { what: string; amount: number; by: string },
): Promise<void> {
  await sql.run(
    `INSERT INTO shop_stock (shop_id, what, amount, counted_at, counted_by) VALUES (?, ?, ?, UTC_TIMESTAMP(3), ?)
     ON DUPLICATE KEY UPDATE amount = VALUES(amount), counted_at = VALUES(counted_at), counted_by = VALUES(counted_by)`,
    [shopId, counted.what, counted.amount, counted.by],
  );
}
