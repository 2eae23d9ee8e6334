/** A migration that is cut off goes on where it was, wherever that was; a shop of before is opened as it stood. */
import { readFile } from "node:fs/promises";
import { join } from "node:path";
import { gunzipSync } from "node:zlib";
import mysql from "mysql2/promise";
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { sleep } from "../../cli/common.mjs";
import { foldJob } from "../../core/log/fold";
import { ofOneVersion } from "../../db/backup";
import { connectionFromEnvironment, Database } from "../../db/database";
import { entriesOf } from "../../db/jobs";
import { type At, migrate, migrationsIn, pending, statementsOf } from "../../db/migrate";
import { root } from "./harness";

const folder = join(root, "db", "migrations");

async function empty(name: string) {
  const options = { ...connectionFromEnvironment(process.env), database: `iteron_t_${name}` };
  const sql = await mysql.createConnection({
    ...options,
    database: undefined,
    multipleStatements: true,
    timezone: "Z",
  });
  await sql.query(
    `DROP DATABASE IF EXISTS ${options.database}; CREATE DATABASE ${options.database} CHARACTER SET utf8mb4`,
  );
  await sql.query(`USE ${options.database}`);
  return { options, sql };
}

/** How every table is made, without the books of the migrations themselves. */
async function schemaOf(sql: mysql.Connection) {
  const [tables] = await sql.query<mysql.RowDataPacket[]>("SHOW TABLES");
  const made: string[] = [];
  for (const name of tables.map((t) => String(Object.values(t)[0])).sort()) {
    const [rows] = await sql.query<mysql.RowDataPacket[]>(`SHOW CREATE TABLE \`${name}\``);
    made.push(String(rows[0]?.["Create Table"]));
  }
  return made;
}

describe("statements of a migration", () => {
  it("end with a semicolon at the end of a line, and remarks are none", () => {
    expect(statementsOf("-- one; two\nA 'x;y'\n  b;\n\nC;  \nD")).toEqual(["A 'x;y'\n  b", "C", "D"]);
  });

  it("of every file are found, and none holds two", async () => {
    for (const name of await migrationsIn(folder)) {
      const statements = statementsOf(await readFile(join(folder, name), "utf8"));
      expect(statements.length).toBeGreaterThan(0);
      for (const s of statements) expect(s).toMatch(/^(CREATE|ALTER|RENAME|INSERT|UPDATE|DELETE|DROP)\b/);
    }
  });
});

describe("a migration", () => {
  it("cut off before and after each of its statements ends in the same tables and rows as one that was not", async () => {
    const whole = await empty("whole");
    const cut = await empty("cut");
    const start = statementsOf(await readFile(join(folder, "001-start.sql"), "utf8"));
    const seen = new Set<string>();
    /** Cuts at the first place where it was not cut yet. */
    const scissors = ({ name, step, when }: At) => {
      const at = `${name} ${step} ${when}`;
      if (seen.has(at)) return;
      seen.add(at);
      throw new Error("cut");
    };
    let runs = 0;
    let done: string[] | null = null;
    for (; !done; runs++) {
      done = await migrate(cut.options, folder, { watcher: scissors }).catch((error) => {
        expect((error as Error).message).toBe("cut");
        return null;
      });
      // Rows of before come in when their tables are there.
      if (seen.size === 2 * start.length + 1 && !(await hasRows(cut.sql))) await seed(cut.sql);
    }
    const files = await migrationsIn(folder);
    await migrate(whole.options, folder);
    let steps = 0;
    for (const f of files) steps += statementsOf(await readFile(join(folder, f), "utf8")).length;
    expect(runs).toBe(2 * steps + 1);
    expect(await schemaOf(cut.sql)).toEqual(await schemaOf(whole.sql));
    const [newest] = await cut.sql.query("SELECT slug, version FROM profile_newest");
    expect(newest).toEqual([{ slug: "old-car", version: 3 }]);
    expect(await pending(cut.options, folder)).toEqual({ names: [], empty: false });
    await Promise.all([whole.sql.end(), cut.sql.end()]);
  });

  it("that fails for a reason of its own is not taken as done", async () => {
    const { options, sql } = await empty("reason");
    await sql.query("CREATE TABLE shop (id INT)");
    await expect(migrate(options, folder)).rejects.toThrow(/already exists/);
    expect((await pending(options, folder)).names[0]).toBe("001-start.sql");
    await sql.end();
  });

  it("is made by one of three servers that start at once on an empty database", async () => {
    const { options, sql } = await empty("three");
    const done = await Promise.all([1, 2, 3].map(() => migrate(options, folder)));
    expect(done.map((d) => d.length).sort()).toEqual([0, 0, (await migrationsIn(folder)).length]);
    await sql.end();
  });
});

async function hasRows(sql: mysql.Connection) {
  const [rows] = await sql.query<mysql.RowDataPacket[]>("SELECT COUNT(*) AS n FROM shop");
  return Number(rows[0]?.n) > 0;
}

async function seed(sql: mysql.Connection) {
  const shop = "01890000-0000-7000-8000-000000000001";
  await sql.query("INSERT INTO shop (id, name, created_at) VALUES (?, 'Old', NOW())", [shop]);
  for (const version of [1, 2, 3])
    await sql.query(
      "INSERT INTO profile (id, shop_id, kind, slug, version, title, document, created_at, created_by) VALUES (UUID(), ?, 'car', 'old-car', ?, 'Old', '{}', NOW(), 'Old')",
      [shop, version],
    );
}

/** The tables and rows of a shop as they were then. */
async function november(name: string) {
  const { options, sql } = await empty(name);
  await sql.query(gunzipSync(await readFile(join(root, "tests", "fixtures", "2026-11", "store.sql.gz"))).toString());
  return { options, sql };
}

describe("before tables with rows are changed", () => {
  it("a copy is made once, by the server that changes them and while no other one does", async () => {
    const { options, sql } = await november("copied");
    const calls: string[][] = [];
    const first = async (names: readonly string[]) => {
      calls.push([...names]);
      await sleep(300);
      expect((await pending(options, folder)).names).toEqual(names);
    };
    const done = await Promise.all([1, 2, 3].map(() => migrate(options, folder, { first })));
    const [made = []] = done.filter((d) => d.length > 0);
    expect(made.length).toBeGreaterThan(0);
    expect(calls).toEqual([made]);
    await sql.end();
  });

  it("nothing is copied where there are none", async () => {
    const { options, sql } = await empty("nothing");
    await migrate(options, folder, { first: () => Promise.reject(new Error("there is nothing to copy")) });
    await sql.end();
  });
});

describe("a backup during an update", () => {
  it("is refused, as its tables may be of both versions; one after it is taken", async () => {
    const { options, sql } = await november("during");
    await expect(ofOneVersion(options, "shop.backup", () => migrate(options, folder))).rejects.toThrow(
      /update of Iteron has changed the tables/,
    );
    expect(await ofOneVersion(options, "shop.backup", async () => "made")).toBe("made");
    await expect(ofOneVersion(options, "shop.backup", () => Promise.reject(new Error("no room")))).rejects.toThrow(
      "no room",
    );
    await sql.end();
  });
});

describe("a shop of November 2026", () => {
  it("is brought up to date with every entry of every job as it was, and every job is read", async () => {
    const { options, sql } = await november("november");
    const logs = async () => {
      const [rows] = await sql.query(
        "SELECT id, job_id, position, at, by_name, kind, version, data FROM job_entry ORDER BY id",
      );
      return rows as { id: string }[];
    };
    const before = await logs();
    expect(before.length).toBeGreaterThan(100);
    expect((await migrate(options, folder))[0]).toBe("009-strength.sql");
    expect(await logs()).toEqual(before);
    const db = new Database(options);
    const jobs = await db.rows(
      z.object({ id: z.string(), shop_id: z.string(), version: z.number() }),
      "SELECT id, shop_id, version FROM job",
    );
    expect(jobs.length).toBeGreaterThan(5);
    for (const { id, shop_id, version } of jobs) {
      const entries = await entriesOf(db, shop_id, id, version);
      expect(entries).toHaveLength(version);
      expect(foldJob(entries)).toBeDefined();
    }
    await db.close();
    await sql.end();
  });
});
