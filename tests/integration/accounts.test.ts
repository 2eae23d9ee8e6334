/**
 * Accounts and sessions. After OWASP's cheat sheets on authentication (responses that do not tell which accounts exist,
 * limits by account and by origin that do not shut out the owner) and on session management (random tokens of at least
 * 64 bits, kept as a hash, ended at sign-out); from memory.
 */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { z } from "zod";
import {
  accountOf,
  createAccount,
  createShop,
  isEmpty,
  MAX_ATTEMPTS,
  makeSetupKey,
  signIn,
  signOut,
  takeSetupKey,
} from "../../db/accounts";
import { connectionFromEnvironment, Database } from "../../db/database";
import { newId } from "../../db/ids";
import { freshDatabase } from "./harness";

let db: Database;
let second: Database;
const shop = newId();
const PASSWORD = "correct horse";
const HOME = "192.0.2.7";
const ABROAD = "198.51.100.1";

beforeAll(async () => {
  const fresh = await freshDatabase("accounts");
  db = fresh.db;
  second = new Database(connectionFromEnvironment(fresh.env));
});
afterAll(() => Promise.all([db.close(), second.close()]));

const person = (email: string, demo = false) =>
  createAccount(db, { shopId: shop, name: "A", role: "lead", password: PASSWORD, email, demo });
const attempt = (email: string, password: string, from = HOME, demo = false, at = db) =>
  signIn(at, { email, password, from }, demo);
const outcome = async (tries: Promise<Awaited<ReturnType<typeof signIn>>>[]) => {
  const count = { ok: 0, wrong: 0, "too-many": 0 };
  for (const r of await Promise.all(tries)) count[r.ok ? "ok" : r.reason]++;
  return count;
};

describe("the key for the first set-up", () => {
  it("works once, for one of several who bring it at the same time, and only the last one made", async () => {
    const old = await makeSetupKey(db);
    const key = (await makeSetupKey(db)) ?? "";
    expect(await takeSetupKey(db, old ?? "")).toBe(false);
    const taken = await Promise.all(
      [db, second, db, second].map((d) => d.transaction((sql) => takeSetupKey(sql, key))),
    );
    expect(taken.filter(Boolean)).toHaveLength(1);
    expect(await takeSetupKey(db, key)).toBe(false);
  });

  it("is not made where somebody has an account; those of the demonstration are nobody's", async () => {
    await createShop(db, shop, "One");
    await person("demo@x.example", true);
    expect(await isEmpty(db, false)).toBe(true);
    expect(await makeSetupKey(db)).not.toBeNull();
    await person("a@x.example");
    expect(await makeSetupKey(db)).toBeNull();
  });
});

describe("signing in", () => {
  it("takes the right password only, and demonstration accounts only where it runs", async () => {
    expect(await attempt("a@x.example", "wrong")).toEqual({ ok: false, reason: "wrong" });
    expect(await attempt("demo@x.example", PASSWORD)).toEqual({ ok: false, reason: "wrong" });
    const good = await attempt(" A@x.example ", PASSWORD);
    if (!good.ok) throw new Error("sign-in failed");
    expect(Buffer.from(good.token, "base64url").length).toBe(32);
    expect((await accountOf(db, good.token, false))?.email).toBe("a@x.example");
    await signOut(db, good.token);
    expect(await accountOf(db, good.token, false)).toBeNull();
    const demo = await attempt("demo@x.example", PASSWORD, HOME, true);
    if (!demo.ok) throw new Error("demo sign-in failed");
    expect(await accountOf(db, demo.token, false)).toBeNull();
  });

  it("takes as long for an address that is unknown as for one that is known", async () => {
    await person("timed@x.example");
    const times = { known: [] as number[], unknown: [] as number[] };
    for (let i = 0; i < 9; i++)
      for (const which of ["known", "unknown"] as const) {
        const begun = performance.now();
        await attempt(which === "known" ? "timed@x.example" : `nobody${i}@x.example`, "wrong", `time ${which} ${i}`);
        times[which].push(performance.now() - begun);
      }
    const median = (list: number[]) => list.sort((a, b) => a - b)[4] ?? 0;
    // Computing a hash more, as once happened, makes it twice as long.
    const ratio = median(times.unknown) / median(times.known);
    expect(ratio).toBeGreaterThan(0.6);
    expect(ratio).toBeLessThan(1.6);
  });

  it("lets no more tries through at once than one after the other, through two servers", async () => {
    const tries = Array.from({ length: 40 }, (_, i) =>
      attempt("many@x.example", `guess ${i}`, ABROAD, false, i % 2 ? db : second),
    );
    const { wrong, "too-many": refused } = await outcome(tries);
    expect(wrong).toBeLessThanOrEqual(MAX_ATTEMPTS.pair);
    expect(refused).toBe(40 - wrong);
    expect(await attempt("many@x.example", "one more", ABROAD)).toEqual(
      wrong === MAX_ATTEMPTS.pair ? { ok: false, reason: "too-many" } : expect.anything(),
    );
  });

  it("does not let a stranger shut the owner out, however many tries and places", async () => {
    await person("owner@x.example");
    expect((await attempt("owner@x.example", PASSWORD)).ok).toBe(true);
    const places = Math.ceil(MAX_ATTEMPTS.account / MAX_ATTEMPTS.pair) + 2;
    for (let place = 0; place < places; place++)
      await outcome(
        Array.from({ length: MAX_ATTEMPTS.pair }, (_, i) => attempt("owner@x.example", `guess ${i}`, `place ${place}`)),
      );
    // From a place of no sign-in so far nobody gets in for a while, from the own one as ever.
    expect(await attempt("owner@x.example", PASSWORD, "a new place")).toEqual({ ok: false, reason: "too-many" });
    expect((await attempt("owner@x.example", PASSWORD)).ok).toBe(true);
  });

  it("counts by place, too: one who tries many addresses is stopped", async () => {
    const { wrong, "too-many": refused } = await outcome(
      Array.from({ length: MAX_ATTEMPTS.origin + 20 }, (_, i) => attempt(`try${i}@x.example`, "password", "one place")),
    );
    expect(wrong).toBeLessThanOrEqual(MAX_ATTEMPTS.origin);
    expect(refused).toBeGreaterThanOrEqual(20);
  });

  it("stores neither passwords, session tokens nor addresses of machines in the clear", async () => {
    const hashes = await db.rows(z.object({ h: z.string() }), "SELECT password_hash AS h FROM account");
    expect(hashes.length).toBeGreaterThan(2);
    for (const { h } of hashes) expect(h).toMatch(/^\$argon2id\$/);
    const origins = await db.rows(
      z.object({ o: z.string() }),
      "SELECT origin AS o FROM known_origin UNION SELECT origin FROM sign_in_attempt",
    );
    expect(origins.length).toBeGreaterThan(2);
    for (const { o } of origins) expect(o).toMatch(/^[0-9a-f]{64}$/);
  });
});
