import { createHash, randomBytes } from "node:crypto";
import { hash, verify } from "@node-rs/argon2";
import { z } from "zod";
import type { Database, Sql } from "./database";
import { newId } from "./ids";

const ROLES = ["technician", "lead", "counter", "read-only"] as const;
export type Role = (typeof ROLES)[number];

export interface Account {
  id: string;
  shopId: string;
  shopName: string;
  email: string;
  name: string;
  role: Role;
  /** Currency of the shop's prices, ISO 4217. */
  currency: string;
}

const accountRow = z
  .object({
    id: z.string(),
    shop_id: z.string(),
    shop_name: z.string(),
    email: z.string(),
    name: z.string(),
    role: z.enum(ROLES),
    currency: z.string(),
  })
  .transform(
    (r): Account => ({
      id: r.id,
      shopId: r.shop_id,
      shopName: r.shop_name,
      email: r.email,
      name: r.name,
      role: r.role,
      currency: r.currency,
    }),
  );

const SESSION_HOURS = 14;
/** Failed or successful tries per address and quarter of an hour. */
export const MAX_ATTEMPTS = 10;

export type SignIn = { ok: true; token: string; account: Account } | { ok: false; reason: "wrong" | "too-many" };

/** Creates a shop. */
export async function createShop(sql: Sql, id: string, name: string, currency = "EUR"): Promise<void> {
  await sql.run("INSERT INTO shop (id, name, currency, created_at) VALUES (?, ?, ?, ?)", [
    id,
    name,
    currency,
    new Date(),
  ]);
}

/** Creates an account; the password is kept as argon2id only. */
export async function createAccount(
  sql: Sql,
  account: Omit<Account, "id" | "shopName" | "currency"> & { password: string; demo: boolean },
): Promise<string> {
  const id = newId();
  await sql.run(
    "INSERT INTO account (id, shop_id, email, name, role, password_hash, demo, created_at) VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
    [
      id,
      account.shopId,
      account.email.toLowerCase(),
      account.name,
      account.role,
      await hash(account.password),
      account.demo,
      new Date(),
    ],
  );
  return id;
}

/** True while nobody can sign in yet: the first run asks for shop and lead. */
export async function isEmpty(sql: Sql, demo: boolean): Promise<boolean> {
  const rows = await sql.rows(
    z.object({ n: z.number() }),
    "SELECT COUNT(*) AS n FROM account WHERE demo = FALSE OR ? = TRUE",
    [demo],
  );
  return (rows[0]?.n ?? 0) === 0;
}

/** Checks address and password and opens a session. Demo accounts exist only while demo mode is on. */
export async function signIn(db: Database, email: string, password: string, demoMode: boolean): Promise<SignIn> {
  const address = email.trim().toLowerCase();
  const since = new Date(Date.now() - 15 * 60_000);
  const tries = await db.rows(
    z.object({ n: z.number() }),
    "SELECT COUNT(*) AS n FROM sign_in_attempt WHERE email = ? AND at > ?",
    [address, since],
  );
  if ((tries[0]?.n ?? 0) >= MAX_ATTEMPTS) return { ok: false, reason: "too-many" };
  const found = await db.rows(
    z.object({ password_hash: z.string(), account: z.string() }),
    "SELECT id AS account, password_hash FROM account WHERE email = ? AND (demo = FALSE OR ? = TRUE)",
    [address, demoMode],
  );
  // A hash is computed for unknown addresses too, so that the answer takes as long.
  const stored = found[0]?.password_hash ?? (await hash("nobody"));
  const right = (await verify(stored, password).catch(() => false)) && found.length === 1;
  if (!right) {
    await db.run("INSERT INTO sign_in_attempt (id, email, at) VALUES (?, ?, ?)", [newId(), address, new Date()]);
    return { ok: false, reason: "wrong" };
  }
  await db.run("DELETE FROM sign_in_attempt WHERE email = ? OR at < ?", [address, since]);
  return openSession(db, found[0]?.account ?? "");
}

async function openSession(db: Database, accountId: string): Promise<SignIn> {
  const token = randomBytes(32).toString("base64url");
  const now = new Date();
  const account = await accountById(db, accountId);
  if (!account) return { ok: false, reason: "wrong" };
  await db.run("DELETE FROM session WHERE expires_at < ?", [now]);
  await db.run("INSERT INTO session (token_hash, account_id, shop_id, created_at, expires_at) VALUES (?, ?, ?, ?, ?)", [
    tokenHash(token),
    accountId,
    account.shopId,
    now,
    new Date(now.getTime() + SESSION_HOURS * 3_600_000),
  ]);
  return { ok: true, token, account };
}

/** The account behind a session token; null when there is none or it has expired. */
export async function accountOf(sql: Sql, token: string, demoMode: boolean): Promise<Account | null> {
  const rows = await sql.rows(
    accountRow,
    `SELECT a.id, a.shop_id, s.name AS shop_name, a.email, a.name, a.role, s.currency FROM session x
     JOIN account a ON a.id = x.account_id JOIN shop s ON s.id = a.shop_id
     WHERE x.token_hash = ? AND x.expires_at > ? AND (a.demo = FALSE OR ? = TRUE)`,
    [tokenHash(token), new Date(), demoMode],
  );
  return rows[0] ?? null;
}

async function accountById(sql: Sql, id: string): Promise<Account | null> {
  const rows = await sql.rows(
    accountRow,
    "SELECT a.id, a.shop_id, s.name AS shop_name, a.email, a.name, a.role, s.currency FROM account a JOIN shop s ON s.id = a.shop_id WHERE a.id = ?",
    [id],
  );
  return rows[0] ?? null;
}

/** Ends a session. */
export async function signOut(sql: Sql, token: string): Promise<void> {
  await sql.run("DELETE FROM session WHERE token_hash = ?", [tokenHash(token)]);
}

function tokenHash(token: string): Uint8Array {
  return createHash("sha256").update(token).digest();
}
