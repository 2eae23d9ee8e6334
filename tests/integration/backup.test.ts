/** A backup is one moment of the shop, made while people write; what is damaged is refused and touches nothing. */
import { execFileSync } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import mysql from "mysql2/promise";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { z } from "zod";
import { sleep } from "../../cli/common.mjs";
import { nightly } from "../../cli/nightly.mjs";
import { foldJob } from "../../core/log/fold";
import { createAccount, createShop } from "../../db/accounts";
import { appendPress, type JobAt } from "../../db/append";
import { readManifest, verifyBackup, writeBackup } from "../../db/backup";
import { type ConnectionOptions, connectionFromEnvironment, Database } from "../../db/database";
import { readFile, storedFile, storeFile } from "../../db/files";
import { newId } from "../../db/ids";
import { createJob, entriesOf, jobById } from "../../db/jobs";
import { migrationsIn } from "../../db/migrate";
import { saveProfile } from "../../db/profiles";
import { contentsOf, jobHash, restoreBackup } from "../../db/restore";
import { demoDocuments } from "../../profiles/library";
import { jobOf } from "../support/jobs";
import { freshDatabase, root } from "./harness";

const JOBS = 8;
const WRITERS = 4;
const migrations = join(root, "db", "migrations");
const folder = mkdtempSync(join(tmpdir(), "iteron-backup-"));
const shops = [newId(), newId()];
const jobs: { id: string; shop: string }[] = [];
const photo = newId();
let db: Database;
let options: ConnectionOptions;
let env: Record<string, string>;
let known: string[];

beforeAll(async () => {
  const fresh = await freshDatabase("backup");
  ({ db, env } = fresh);
  options = connectionFromEnvironment(env);
  known = await migrationsIn(migrations);
  const { car, variant, kit } = demoDocuments();
  for (const shop of shops) {
    await createShop(db, shop, `Shop ${shop}`);
    await createAccount(db, {
      shopId: shop,
      email: `${shop}@one.example`,
      name: "Lead",
      role: "lead",
      password: "long enough",
      demo: false,
    });
    const [carProfile = "", variantProfile = "", kitProfile = ""] = [
      await saveProfile(db, shop, car, "Test"),
      await saveProfile(db, shop, variant, "Test"),
      await saveProfile(db, shop, kit, "Test"),
    ].map((p) => p.id);
    for (let i = 0; i < JOBS / 2; i++) {
      const id = newId();
      await createJob(db, {
        id,
        shopId: shop,
        title: `Job ${i}`,
        customer: "",
        carProfile,
        variantProfile,
        kitProfile,
        createdAt: new Date(),
        line: { stage: "intake", nextAction: "", kit: { slug: "", title: "" }, variantSlug: "", carSlug: "" },
      });
      jobs.push({ id, shop });
    }
  }
  await storeFile(db, { ...photoOf(), name: "photo" }, photoBytes(), 10_000_000);
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await db.close();
});

const photoOf = () => ({
  id: photo,
  shopId: shops[0] ?? "",
  jobId: jobs[0]?.id ?? "",
  what: "photo" as const,
  accountId: null,
});
/** Every byte value, also those that mean something in SQL. */
async function* photoBytes() {
  for (let i = 0; i < 40; i++) yield Uint8Array.from({ length: 65_536 }, (_, k) => (k * 31 + i * 7) % 256);
}

async function jobNow({ id, shop }: { id: string; shop: string }): Promise<JobAt> {
  const row = await jobById(db, shop, id);
  const entries = await entriesOf(db, shop, id, row?.version ?? 0);
  return { id, shopId: shop, version: row?.version ?? 0, job: jobOf(demoDocuments(), entries) };
}
/** Writes until it is told to stop; returns the identifiers of what was acknowledged. */
async function write(name: string, until: { stopped: boolean }, acknowledged: Set<string>) {
  for (let i = 0; !until.stopped; i++) {
    const job = jobs[i % jobs.length] ?? { id: "", shop: "" };
    const id = newId();
    const command = { kind: "handover.point" as const, data: { text: `${name} ${i} “ü” \\ ' \0 🙂` } };
    const author = { accountId: null, name, role: "lead" as const };
    const result = await appendPress(db, [{ id, command, at: new Date().toISOString() }], author, () => jobNow(job));
    if (result.kind === "written") acknowledged.add(id);
  }
}

const about = async () => ({ migrations: known, estimate: 1_000_000 });
const scratch = (name: string): ConnectionOptions => ({ ...options, database: `iteron_t_${name}` });
async function drop(name: string) {
  const sql = await mysql.createConnection({ ...options, database: undefined });
  await sql.query(`DROP DATABASE IF EXISTS iteron_t_${name}`);
  await sql.end();
}

describe("a backup while four people write", () => {
  const file = join(folder, "while.backup");
  const before = new Set<string>();

  it("is one moment: of every job the log as it was then, nothing acknowledged before is missing", async () => {
    const until = { stopped: false };
    const acknowledged = new Set<string>();
    const writers = Array.from({ length: WRITERS }, (_, w) => write(`Writer ${w}`, until, acknowledged));
    while (acknowledged.size < 60) await new Promise((r) => setTimeout(r, 20));
    for (const id of acknowledged) before.add(id);
    const seen: number[] = [];
    await writeBackup(options, file, await about(), (at) => seen.push(at.bytes / at.ofAbout));
    until.stopped = true;
    await Promise.all(writers);
    expect(acknowledged.size).toBeGreaterThan(before.size);
    expect(Math.max(...seen)).toBeLessThanOrEqual(1);

    await drop("restored");
    const { contents, before: moved } = await restoreBackup(
      file,
      await verifyBackup(file, known),
      scratch("restored"),
      { replace: false, migrations },
    );
    expect(moved).toBeNull();
    expect(contents).toMatchObject({ shops: 2, jobs: JOBS, files: 1, unreadable: [] });
    const restored = new Database(scratch("restored"));
    const found = new Set<string>();
    for (const { id, shop } of jobs) {
      const row = await jobById(restored, shop, id);
      const entries = await entriesOf(restored, shop, id, row?.version ?? 0);
      const now = await entriesOf(db, shop, id, (await jobById(db, shop, id))?.version ?? 0);
      // The live job as it was at that version folds to the same state.
      expect(jobHash(foldJob(entries))).toBe(jobHash(foldJob(now.slice(0, row?.version))));
      for (const e of entries) found.add(e.id);
    }
    expect([...before].filter((id) => !found.has(id))).toEqual([]);
    expect(contents.entries).toBe(found.size);
    const stored = await storedFile(restored, photoOf().shopId, photoOf().jobId, photo);
    if (!stored) throw new Error("the photo is missing");
    const bytes = async (pieces: AsyncIterable<Uint8Array>) => {
      const all: Uint8Array[] = [];
      for await (const p of pieces) all.push(p);
      return Buffer.concat(all);
    };
    expect((await bytes(readFile(restored, photoOf().shopId, stored))).equals(await bytes(photoBytes()))).toBe(true);
    await restored.close();
  });

  it("folds to the same sum when nobody has written since", async () => {
    const quiet = join(folder, "quiet.backup");
    await writeBackup(options, quiet, await about());
    await drop("quiet");
    const { contents } = await restoreBackup(quiet, await verifyBackup(quiet, known), scratch("quiet"), {
      replace: false,
      migrations,
    });
    expect(contents).toEqual(await contentsOf(options));
  });

  it("is an ordinary tar with an ordinary gzip in it, as other programs see it", () => {
    const script =
      "import tarfile,gzip,hashlib,json,sys\nt=tarfile.open(sys.argv[1])\nraw=t.extractfile('dump.sql.gz').read()\nprint(json.dumps([t.getnames(),hashlib.sha256(raw).hexdigest(),len(gzip.decompress(raw))]))";
    const [names, sha, length] = JSON.parse(execFileSync("python3", ["-c", script, file], { encoding: "utf8" }));
    expect(names).toEqual(["manifest.json", "dump.sql.gz"]);
    const manifest = JSON.parse(execFileSync("tar", ["-xOf", file, "manifest.json"], { encoding: "utf8" }));
    expect([manifest.dump.sha256, manifest.dump.plainBytes]).toEqual([sha, length]);
  });

  it("does not bring sessions back to life", async () => {
    const sql = await mysql.createConnection(options);
    await sql.query(
      "INSERT INTO session (token_hash, account_id, shop_id, created_at, expires_at) SELECT UNHEX(SHA2('x', 256)), id, shop_id, NOW(), NOW() + INTERVAL 1 DAY FROM account LIMIT 1",
    );
    await sql.end();
    const again = join(folder, "session.backup");
    await writeBackup(options, again, await about());
    const dump = execFileSync("sh", ["-c", `tar -xOf '${again}' dump.sql.gz | gunzip`], {
      encoding: "latin1",
      maxBuffer: 1e9,
    });
    expect(dump).toContain("CREATE TABLE `session`");
    expect(dump).not.toContain("INSERT INTO `session`");
  });
});

describe("a night", () => {
  const at = join(folder, "nights");
  const made = join(at, "iteron-2026-11-27.backup");

  it("makes one backup that reads to its end, and lets go of what is not kept only then", async () => {
    mkdirSync(at);
    // Of February only the newest is kept.
    for (const name of ["iteron-2026-02-10.backup", "iteron-2026-02-11.backup", "mine.backup"])
      writeFileSync(join(at, name), "old");
    let stop = nightly(at, env, () => new Date(2026, 10, 27, 1, 30));
    await sleep(500);
    await stop();
    expect(readdirSync(at)).toHaveLength(3);

    stop = nightly(at, env, () => new Date(2026, 10, 27, 2, 30));
    for (let i = 0; i < 300 && readdirSync(at).includes("iteron-2026-02-10.backup"); i++) await sleep(100);
    await stop();
    expect(readdirSync(at).sort()).toEqual(["iteron-2026-02-11.backup", "iteron-2026-11-27.backup", "mine.backup"]);
    expect((await verifyBackup(made, known)).shop).toBe(null);
  });

  it("lets go of nothing when the database is away", async () => {
    rmSync(made);
    writeFileSync(join(at, "iteron-2026-02-10.backup"), "old");
    const away = { ...env, ITERON_DB_PORT: "9" };
    const stop = nightly(at, away, () => new Date(2026, 10, 27, 2, 30));
    await sleep(4000);
    await stop();
    expect([existsSync(made), readdirSync(at).includes("iteron-2026-02-10.backup")]).toEqual([false, true]);
  });
});

describe("a backup of one shop", () => {
  it("holds its rows and nobody else's", async () => {
    const file = join(folder, "one.backup");
    const [shop = "", other = ""] = shops;
    const manifest = await writeBackup(options, file, { ...(await about()), shop });
    expect(manifest.shop).toBe(shop);
    await drop("one");
    const { contents } = await restoreBackup(file, await verifyBackup(file, known), scratch("one"), {
      replace: false,
      migrations,
    });
    expect(contents).toMatchObject({ shops: 1, jobs: JOBS / 2, files: 1, unreadable: [] });
    const restored = new Database(scratch("one"));
    const names = await restored.rows(
      z.object({ t: z.string() }),
      "SELECT table_name AS t FROM information_schema.columns WHERE table_schema = ? AND column_name = 'shop_id'",
      [scratch("one").database],
    );
    expect(names.length).toBeGreaterThan(10);
    for (const { t } of names) {
      const rows = await restored.rows(
        z.object({ n: z.number() }),
        `SELECT COUNT(*) AS n FROM ${t} WHERE shop_id = ?`,
        [other],
      );
      expect([t, rows[0]?.n]).toEqual([t, 0]);
    }
    await restored.close();
  });
});

describe("what is no whole backup of this Iteron", () => {
  const whole = join(folder, "whole.backup");
  const damaged = (name: string, bytes: Uint8Array) => {
    const file = join(folder, name);
    writeFileSync(file, bytes);
    return file;
  };
  /** A tar with another manifest or dump. */
  const altered = (name: string, change: (work: string) => void) => {
    const work = mkdtempSync(join(folder, "altered-"));
    execFileSync("tar", ["-xf", whole, "-C", work]);
    change(work);
    const file = join(folder, name);
    execFileSync("tar", ["-cf", file, "-C", work, "manifest.json", "dump.sql.gz"]);
    return file;
  };
  const manifestWith = (name: string, more: object) =>
    altered(name, (work) => {
      const path = join(work, "manifest.json");
      writeFileSync(path, JSON.stringify({ ...JSON.parse(readFileSync(path, "utf8")), ...more }));
    });

  it("is refused with place and remedy", async () => {
    await writeBackup(options, whole, await about());
    const bytes = readFileSync(whole);
    const refused = async (file: string, words: RegExp) => {
      await expect(verifyBackup(file, known)).rejects.toThrow(words);
    };
    for (const share of [0.02, 0.3, 0.5, 0.7, 0.8])
      await refused(
        damaged(`cut-${share}`, bytes.subarray(0, Math.floor(share * bytes.length))),
        /cut off|no whole|damaged/,
      );
    await refused(damaged("text", Buffer.from("not a backup")), /cut off or no backup/);
    await refused(damaged("nothing", Buffer.alloc(0)), /no whole backup|cut off/);
    await refused(join(folder, "not-there"), /no such file/);
    const flipped = Buffer.from(bytes);
    flipped.writeUInt8(flipped.readUInt8(bytes.length >> 1) ^ 1, bytes.length >> 1);
    await refused(damaged("flipped", flipped), /damaged/);
    await refused(manifestWith("newer", { migrations: [...known, "099-later.sql"] }), /newer Iteron \(099-later.sql\)/);
    await refused(manifestWith("newer-format", { formatVersion: 2 }), /newer Iteron/);
    await refused(manifestWith("other", { format: "something" }), /manifest cannot be read/);
    await refused(
      altered("half-dump", (work) => {
        const dump = readFileSync(join(work, "dump.sql.gz"));
        writeFileSync(join(work, "dump.sql.gz"), dump.subarray(0, dump.length / 2));
      }),
      /damaged/,
    );
  });

  it("and what is restored over a shop, or fails on the way, leaves the present data as they are", async () => {
    const now = await contentsOf(options);
    const manifest = await readManifest(whole, known);
    await expect(restoreBackup(whole, manifest, options, { replace: false, migrations })).rejects.toThrow(
      /there is a shop/,
    );
    const half = altered("half", (work) => {
      const dump = readFileSync(join(work, "dump.sql.gz"));
      writeFileSync(join(work, "dump.sql.gz"), dump.subarray(0, dump.length - 2000));
    });
    await expect(restoreBackup(half, manifest, options, { replace: true, migrations })).rejects.toThrow(/damaged/);
    expect(await contentsOf(options)).toEqual(now);
    const sql = await mysql.createConnection({ ...options, database: undefined });
    const [left] = await sql.query("SHOW DATABASES LIKE 'iteron\\_restoring%'");
    expect(left).toEqual([]);
    await sql.end();
  });

  it("moves away what is there when it is to replace it, and deletes nothing", async () => {
    const now = await contentsOf(options);
    const { before } = await restoreBackup(whole, await readManifest(whole, known), options, {
      replace: true,
      migrations,
    });
    expect(before).toMatch(/^iteron_t_backup_before_\d{14}$/);
    expect(await contentsOf({ ...options, database: before ?? "" })).toEqual(now);
    expect(await contentsOf(options)).toEqual(now);
    // Keys between tables have followed.
    await expect(db.run("DELETE FROM shop WHERE id = ?", [shops[0] ?? ""])).rejects.toThrow(/foreign key/);
    const sql = await mysql.createConnection({ ...options, database: undefined });
    await sql.query(`DROP DATABASE ${before}`);
    await sql.end();
  });
});
