import { readFile as readText } from "node:fs/promises";
import { join } from "node:path";
import mysql from "mysql2/promise";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { z } from "zod";
import type { EntryBody } from "../../core/job/entry";
import { accountOf, createAccount, createShop, MOST_ATTEMPTS, signIn, signOut } from "../../db/accounts";
import { connectionFromEnvironment, Database } from "../../db/database";
import { readFile, storedFile, storeFile, TooLarge } from "../../db/files";
import { newId } from "../../db/ids";
import { appendEntry, createJob, entriesOf, jobById, listJobs, variantCounts } from "../../db/jobs";
import { migrate } from "../../db/migrate";
import { listProfiles, saveProfile, searchProfiles } from "../../db/profiles";
import { countStock, stockOf } from "../../db/stock";
import { shippedLibrary } from "../../profiles/library";
import { freshDatabase, root } from "./harness";

let db: Database;
let env: Record<string, string>;
const shop = newId();
const otherShop = newId();
let profiles: string[];
const point = (text: string): EntryBody => ({ kind: "handover.point", data: { text } });
const sheet = (plate: string): EntryBody => ({
  kind: "intake.car",
  data: { identification: "", plate, odometerKm: null, firmware: "", faultCodes: "", note: "" },
});

beforeAll(async () => {
  ({ db, env } = await freshDatabase("store"));
  await createShop(db, shop, "One");
  await createShop(db, otherShop, "Other");
  profiles = [];
  for (const p of shippedLibrary()) profiles.push((await saveProfile(db, shop, p, "Test")).id);
});
afterAll(() => db.close());

async function newJob(): Promise<string> {
  const id = newId();
  const [carProfile = "", variantProfile = "", kitProfile = ""] = profiles;
  await createJob(db, {
    id,
    shopId: shop,
    title: "Test",
    customer: "",
    carProfile,
    variantProfile,
    kitProfile,
    stage: "intake",
    nextAction: "",
    createdAt: new Date(),
  });
  return id;
}
const entry = (body: EntryBody, more: { id?: string; basedOn?: string | null } = {}) => ({
  id: newId(),
  body,
  at: new Date(),
  byName: "Test",
  accountId: null,
  ...more,
});

describe("migrations", () => {
  it("apply once, also when two servers start at the same time", async () => {
    const options = { ...connectionFromEnvironment(env) };
    const again = await Promise.all([1, 2].map(() => migrate(options, join(root, "db", "migrations"))));
    expect(again).toEqual([[], []]);
  });
});

describe("the migration that opened the library", () => {
  it("keeps jobs, profiles and files of the release before, and finds them", async () => {
    const options = { ...connectionFromEnvironment(env), database: "iteron_t_before" };
    const bare = await mysql.createConnection({ ...options, database: undefined, multipleStatements: true });
    await bare.query("DROP DATABASE IF EXISTS iteron_t_before; CREATE DATABASE iteron_t_before CHARACTER SET utf8mb4");
    await bare.query(`USE iteron_t_before; ${await readText(join(root, "db", "migrations", "001-start.sql"), "utf8")}`);
    await bare.query(
      "CREATE TABLE migration (name VARCHAR(120) NOT NULL PRIMARY KEY, applied_at DATETIME(3) NOT NULL); INSERT INTO migration VALUES ('001-start.sql', NOW())",
    );
    const [shopId, job, file] = [newId(), newId(), newId()];
    const ids = [newId(), newId(), newId()];
    await bare.query("INSERT INTO shop (id, name, created_at) VALUES (?, 'Old', NOW())", [shopId]);
    for (const [i, kind] of ["car", "variant", "kit"].entries())
      await bare.query(
        "INSERT INTO profile (id, shop_id, kind, slug, version, title, document, created_at, created_by) VALUES (?, ?, ?, ?, 3, ?, '{}', NOW(), 'Old')",
        [ids[i], shopId, kind, `old-${kind}`, `Old ${kind}`],
      );
    await bare.query(
      "INSERT INTO job (id, shop_id, number, title, customer, car_profile, variant_profile, kit_profile, stage, next_action, created_at) VALUES (?, ?, 101, 'Old job', '', ?, ?, ?, 'prove', 'x', NOW())",
      [job, shopId, ...ids],
    );
    await bare.query(
      "INSERT INTO bus_file (id, shop_id, job_id, name, bytes, created_at, stored_at) VALUES (?, ?, ?, 'a.log', 3, NOW(), NOW())",
      [file, shopId, job],
    );
    await bare.end();
    expect(await migrate(options, join(root, "db", "migrations"))).toEqual(["002-library.sql", "003-stock.sql"]);
    const old = new Database(options);
    expect(await jobById(old, shopId, job)).toMatchObject({ kitProfile: ids[2], kitTitle: "Old kit" });
    expect((await listProfiles(old, shopId)).map((p) => [p.slug, p.version])).toEqual([
      ["old-car", 3],
      ["old-variant", 3],
      ["old-kit", 3],
    ]);
    const query = { text: "old kit", kind: "" as const, connector: "", ways: "", year: "", country: "", screen: "" };
    expect((await searchProfiles(old, shopId, query)).hits.map((h) => h.slug)).toEqual(["old-kit"]);
    expect(await storedFile(old, shopId, job, file)).toMatchObject({ name: "a.log" });
    expect(await variantCounts(old, shopId)).toEqual(new Map([["old-variant", 1]]));
    await old.close();
  });
});

describe("the shelf of a shop", () => {
  it("keeps the last count of each material, for this shop alone", async () => {
    await countStock(db, shop, { what: "Ties", amount: 40, by: "Test" });
    await countStock(db, shop, { what: "Foam tape", amount: 2.5, by: "Test" });
    await countStock(db, shop, { what: "Ties", amount: 12, by: "Test" });
    expect(await stockOf(db, shop)).toEqual({ Ties: 12, "Foam tape": 2.5 });
    expect(await stockOf(db, newId())).toEqual({});
  });
});

describe("jobs", () => {
  it("take the same identifier once, as a job and as an entry", async () => {
    const id = await newJob();
    const [carProfile = "", variantProfile = "", kitProfile = ""] = profiles;
    expect(
      await createJob(db, {
        id,
        shopId: shop,
        title: "Again",
        customer: "",
        carProfile,
        variantProfile,
        kitProfile,
        stage: "intake",
        nextAction: "",
        createdAt: new Date(),
      }),
    ).toBe(false);
    const one = entry(point("x"));
    expect((await appendEntry(db, shop, id, one)).kind).toBe("appended");
    expect((await appendEntry(db, shop, id, one)).kind).toBe("repeated");
    expect(await entriesOf(db, shop, id)).toHaveLength(1);
  });

  it("keep every entry of twenty writers at once, in one order", async () => {
    const id = await newJob();
    const results = await Promise.all(
      Array.from({ length: 20 }, (_, i) => appendEntry(db, shop, id, entry(point(`${i}`)))),
    );
    expect(results.every((r) => r.kind === "appended")).toBe(true);
    expect(await entriesOf(db, shop, id)).toHaveLength(20);
    expect((await jobById(db, shop, id))?.version).toBe(20);
  });

  it("get different numbers when created at the same moment", async () => {
    const ids = await Promise.all(Array.from({ length: 6 }, newJob));
    const rows = (await listJobs(db, shop)).filter((j) => ids.includes(j.id));
    expect(new Set(rows.map((j) => j.number)).size).toBe(6);
  });

  it("show a stale edit the other person's sheet and keep theirs", async () => {
    const id = await newJob();
    const first = entry(sheet("A"), { basedOn: null });
    await appendEntry(db, shop, id, first);
    expect((await appendEntry(db, shop, id, entry(sheet("B"), { basedOn: first.id }))).kind).toBe("appended");
    const stale = await appendEntry(db, shop, id, entry(sheet("C"), { basedOn: first.id }));
    expect(stale).toMatchObject({ kind: "stale", theirs: { data: { plate: "B" } } });
    expect((await entriesOf(db, shop, id)).at(-1)).toMatchObject({ data: { plate: "B" } });
  });

  it("stay as they are once closed, until reopened", async () => {
    const id = await newJob();
    await appendEntry(db, shop, id, entry({ kind: "handover.close", data: { openPoints: [] } }));
    expect((await appendEntry(db, shop, id, entry(point("late")))).kind).toBe("closed");
    await appendEntry(db, shop, id, entry({ kind: "handover.reopen", data: { reason: "test" } }));
    expect((await appendEntry(db, shop, id, entry(point("now")))).kind).toBe("appended");
  });

  it("are unknown to another shop", async () => {
    const id = await newJob();
    expect(await jobById(db, otherShop, id)).toBeNull();
    expect(await entriesOf(db, otherShop, id)).toEqual([]);
    expect((await appendEntry(db, otherShop, id, entry(point("x")))).kind).toBe("unknown-job");
    expect(await listJobs(db, otherShop)).toEqual([]);
  });
});

describe("profiles", () => {
  it("get a new version for a change and none for the same document", async () => {
    const [car] = shippedLibrary();
    if (!car) throw new Error("the library has a car");
    expect(await saveProfile(db, shop, car, "Test")).toMatchObject({ version: 1, fresh: false });
    expect(await saveProfile(db, shop, { ...car, title: "Changed" }, "Test")).toMatchObject({
      version: 2,
      fresh: true,
    });
    const heads = await listProfiles(db, shop);
    expect(heads.find((h) => h.slug === car?.id)).toMatchObject({ title: "Changed", version: 2 });
    expect(heads).toHaveLength(shippedLibrary().length);
  });
});

describe("files", () => {
  async function* pieces(count: number, size: number) {
    for (let i = 0; i < count; i++) yield new Uint8Array(size).fill(i);
  }

  it("come back byte for byte from their chunks", async () => {
    const job = await newJob();
    const file = await storeFile(db, shop, job, { id: newId(), name: "x.log" }, pieces(30, 70_001), 10_000_000);
    expect(file.bytes).toBe(30 * 70_001);
    const back: number[] = [];
    let bytes = 0;
    for await (const piece of readFile(db, shop, file.id)) {
      back.push(piece[0] ?? -1);
      bytes += piece.length;
    }
    expect(bytes).toBe(file.bytes);
    expect(back.length).toBeGreaterThan(1);
    expect(await storedFile(db, otherShop, job, file.id)).toBeNull();
  });

  it("leave nothing behind when they are too large or break off", async () => {
    const job = await newJob();
    const id = newId();
    await expect(storeFile(db, shop, job, { id, name: "big" }, pieces(40, 100_000), 1_000_000)).rejects.toThrow(
      TooLarge,
    );
    async function* broken() {
      yield new Uint8Array(600_000);
      throw new Error("connection lost");
    }
    await expect(storeFile(db, shop, job, { id, name: "broken" }, broken(), 9_000_000)).rejects.toThrow(
      "connection lost",
    );
    const left = await db.rows(
      z.object({ n: z.number() }),
      "SELECT (SELECT COUNT(*) FROM job_chunk WHERE file_id = ?) + (SELECT COUNT(*) FROM job_file WHERE id = ?) AS n",
      [id, id],
    );
    expect(left[0]?.n).toBe(0);
  });
});

describe("accounts", () => {
  it("sign in with the right password only, and demo accounts only in demo mode", async () => {
    const base = { shopId: shop, name: "A", role: "lead" as const, password: "correct horse" };
    await createAccount(db, { ...base, email: "a@x.example", demo: false });
    await createAccount(db, { ...base, email: "demo@x.example", demo: true });
    expect(await signIn(db, "a@x.example", "wrong", false)).toEqual({ ok: false, reason: "wrong" });
    expect(await signIn(db, "demo@x.example", base.password, false)).toEqual({ ok: false, reason: "wrong" });
    const good = await signIn(db, " A@x.example ", base.password, false);
    if (!good.ok) throw new Error("sign-in failed");
    expect((await accountOf(db, good.token, false))?.email).toBe("a@x.example");
    await signOut(db, good.token);
    expect(await accountOf(db, good.token, false)).toBeNull();
    const demo = await signIn(db, "demo@x.example", base.password, true);
    if (!demo.ok) throw new Error("demo sign-in failed");
    expect(await accountOf(db, demo.token, false)).toBeNull();
  });

  it("stop guessing after some tries", async () => {
    for (let i = 0; i < MOST_ATTEMPTS; i++) await signIn(db, "victim@x.example", `guess ${i}`, false);
    expect(await signIn(db, "victim@x.example", "anything", false)).toEqual({ ok: false, reason: "too-many" });
  });

  it("store neither passwords nor session tokens in the clear", async () => {
    const rows = await db.rows(z.object({ password_hash: z.string() }), "SELECT password_hash FROM account");
    expect(rows.every((r) => r.password_hash.startsWith("$argon2id$"))).toBe(true);
  });
});
