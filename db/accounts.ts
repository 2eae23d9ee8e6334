import { createHash, randomBytes } from "node:crypto";
import { hash, verify } from "@node-rs/argon2";
import { z } from "zod";
import { ROLES, type Role } from "../core/job/guards/guard";
import type { Database, Sql } from "./database";
import { newId } from "./ids";

export type { Role };

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
/**
 * Tries in a quarter of an hour: at one account from one place, from one place in all, and at one account from places
 * from which nobody has signed in to it before.
 */
export const MAX_ATTEMPTS = { pair: 10, origin: 60, account: 100 };
const WINDOW_MS = 15 * 60_000;
const KNOWN_DAYS = 90;

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

/** What an unknown address is compared with: it takes as long as a known one. */
const NOBODY = hash("nobody");

/** Somebody who wants to sign in. */
export interface Caller {
  email: string;
  password: string;
  /** Where the request comes from: the address of the connection. */
  from: string;
}

/** Checks address and password and opens a session. Demo accounts exist only while demo mode is on. */
export async function signIn(db: Database, { email, password, from }: Caller, demoMode: boolean): Promise<SignIn> {
  const address = email.trim().toLowerCase();
  const origin = originHash(from);
  const [found] = await db.rows(
    z.object({ password_hash: z.string(), account: z.string(), known: z.number() }),
    `SELECT a.id AS account, a.password_hash,
       EXISTS (SELECT 1 FROM known_origin k WHERE k.account_id = a.id AND k.origin = ?) AS known
     FROM account a WHERE a.email = ? AND (a.demo = FALSE OR ? = TRUE)`,
    [origin, address, demoMode],
  );
  const attempt = newId();
  if (await isTooMany(db, { attempt, address, origin, known: found?.known === 1 }))
    return { ok: false, reason: "too-many" };
  const right = await verify(found?.password_hash ?? (await NOBODY), password).catch(() => false);
  if (!right || !found) return { ok: false, reason: "wrong" };
  await db.run("DELETE FROM sign_in_attempt WHERE (email = ? AND origin = ?) OR at < ?", [
    address,
    origin,
    new Date(Date.now() - WINDOW_MS),
  ]);
  await remember(db, found.account, origin);
  return openSession(db, found.account);
}

/**
 * Writes the try down first and counts then, so that of many at once no more are let through than one after the other.
 * A try that is refused does not count: who waits may come in, whatever others do meanwhile.
 */
async function isTooMany(
  sql: Sql,
  { attempt, address, origin, known }: { attempt: string; address: string; origin: string; known: boolean },
): Promise<boolean> {
  const now = new Date();
  await sql.run("INSERT INTO sign_in_attempt (id, email, origin, at) VALUES (?, ?, ?, ?)", [
    attempt,
    address,
    origin,
    now,
  ]);
  const [n] = await sql.rows(
    z.object({ pair: z.number(), origin: z.number(), account: z.number() }),
    `SELECT COUNT(IF(email = ? AND origin = ?, 1, NULL)) AS pair, COUNT(IF(origin = ?, 1, NULL)) AS origin,
       COUNT(IF(email = ?, 1, NULL)) AS account
     FROM sign_in_attempt WHERE (email = ? OR origin = ?) AND at > ?`,
    [address, origin, origin, address, address, origin, new Date(now.getTime() - WINDOW_MS)],
  );
  const many =
    !n ||
    n.pair > MAX_ATTEMPTS.pair ||
    n.origin > MAX_ATTEMPTS.origin ||
    // Strangers who try at an account from everywhere shut out strangers, not who has been here before.
    (!known && n.account > MAX_ATTEMPTS.account);
  if (many) await sql.run("DELETE FROM sign_in_attempt WHERE id = ?", [attempt]);
  return many;
}

async function remember(sql: Sql, account: string, origin: string): Promise<void> {
  const now = new Date();
  await sql.run("DELETE FROM known_origin WHERE seen_at < ?", [new Date(now.getTime() - KNOWN_DAYS * 86_400_000)]);
  await sql.run(
    "INSERT INTO known_origin (account_id, origin, seen_at) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE seen_at = VALUES(seen_at)",
    [account, origin, now],
  );
}

/** Addresses are compared, not kept. */
function originHash(from: string): string {
  return createHash("sha256").update(from).digest("hex");
}

/** Makes a new key with which the shop can be set up, in place of an earlier one; null when there is an account. */
export async function makeSetupKey(db: Database): Promise<string | null> {
  if (!(await isEmpty(db, false))) return null;
  const key = randomBytes(12).toString("base64url");
  await db.run("REPLACE INTO setup_key (id, key_hash, created_at) VALUES (1, ?, ?)", [tokenHash(key), new Date()]);
  return key;
}

/** Takes the key away; of two who bring it at once one is told no. Inside the transaction that sets the shop up. */
export async function takeSetupKey(sql: Sql, key: string): Promise<boolean> {
  return (await sql.run("DELETE FROM setup_key WHERE id = 1 AND key_hash = ?", [tokenHash(key)])) === 1;
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
