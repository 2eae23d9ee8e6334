import { z } from "zod";
import type { Sql } from "./database";

/** The shop's usual options by choice, where it has any of its own. */
export async function usualOptions(sql: Sql, shopId: string): Promise<Record<string, string>> {
  const rows = await sql.rows(
    z.object({ choice: z.string(), option_id: z.string() }),
    "SELECT choice, option_id FROM shop_usual WHERE shop_id = ?",
    [shopId],
  );
  return Object.fromEntries(rows.map((r) => [r.choice, r.option_id]));
}

/** Makes an option the shop's usual one. */
export async function setUsualOption(sql: Sql, shopId: string, choice: string, option: string): Promise<void> {
  await sql.run(
    "INSERT INTO shop_usual (shop_id, choice, option_id) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE option_id = VALUES(option_id)",
    [shopId, choice, option],
  );
}
