import { readFile as readText } from "node:fs/promises";
import { join } from "node:path";
import mysql from "mysql2/promise";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { z } from "zod";
import type { Asked } from "../../core/job/decide";
import type { Command } from "../../core/log/entry";
import { createShop } from "../../db/accounts";
import { type Author, appendPress, type JobAt } from "../../db/append";
import { connectionFromEnvironment, Database } from "../../db/database";
import { FileTaken, type NewFile, purgeLeftovers, readFile, storedFile, storeFile, TooLarge } from "../../db/files";
import { newId } from "../../db/ids";
import { createJob, entriesOf, experienceOf, jobById, listJobs, variantCounts } from "../../db/jobs";
import { migrate } from "../../db/migrate";
import { listProfiles, saveProfile, searchProfiles } from "../../db/profiles";
import { countStock, stockOf } from "../../db/stock";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { jobOf } from "../support/jobs";
import { freshDatabase, root } from "./harness";

let db: Database;
let env: Record<string, string>;
const shop = newId();
const otherShop = newId();
let profiles: string[];
const point = (text: string): Command => ({ kind: "handover.point", data: { text } });
const plate = (text: string, before: string): Command => ({
  kind: "intake.car",
  data: { changed: { plate: text }, before: { plate: before } },
});
const TEST: Author = { accountId: null, name: "Test", role: "lead" };

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
  await createJob(db, { ...NEW_JOB, id, shopId: shop, carProfile, variantProfile, kitProfile });
  return id;
}
const NEW_JOB = {
  title: "Test",
  customer: "",
  createdAt: new Date(),
  line: { stage: "intake", nextAction: "", kit: { slug: "", title: "" }, variantSlug: "", carSlug: "" },
};

/** The job as it stands in the database, with the documents of the demonstration. */
async function jobNow(id: string, shopId = shop): Promise<JobAt> {
  const row = await jobById(db, shopId, id);
  if (!row) throw new Error("no such job");
  const entries = await entriesOf(db, shopId, id, row.version);
  return { id, shopId, version: row.version, job: jobOf(demoDocuments(), entries) };
}
const asked = (command: Command, id = newId()): Asked => ({ id, command, at: new Date().toISOString() });
/** Decides on the job as it was read and writes; reads again when somebody else was quicker. */
const pressed = async (id: string, press: Asked[], author = TEST, seen?: JobAt) =>
  appendPress(db, press, author, async (again) => (again || !seen ? jobNow(id) : seen));

describe("jobs opened at the same moment", () => {
  it("get a number each, twenty at once through two pools", async () => {
    const second = new Database(connectionFromEnvironment(env));
    const [carProfile = "", variantProfile = "", kitProfile = ""] = profiles;
    const ids = Array.from({ length: 20 }, newId);
    const made = await Promise.all(
      ids.map((id, i) =>
        createJob(i % 2 ? db : second, { ...NEW_JOB, id, shopId: shop, carProfile, variantProfile, kitProfile }),
      ),
    );
    expect(made).toEqual(Array(20).fill(true));
    const numbers = await db.rows(z.object({ number: z.number() }), "SELECT number FROM job WHERE shop_id = ?", [shop]);
    expect(new Set(numbers.map((n) => n.number)).size).toBe(numbers.length);
    await second.close();
  });
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
    expect(await migrate(options, join(root, "db", "migrations"))).toEqual([
      "002-library.sql",
      "003-stock.sql",
      "004-log.sql",
      "005-presence.sql",
      "006-coding.sql",
      "007-uploads.sql",
      "008-bus-map.sql",
      "009-strength.sql",
      "010-library-photo.sql",
    ]);
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
    const again = { ...NEW_JOB, id, shopId: shop, title: "Again", carProfile, variantProfile, kitProfile };
    expect(await createJob(db, again)).toBe(false);
    const one = asked(point("x"));
    expect((await pressed(id, [one])).kind).toBe("written");
    expect((await pressed(id, [one])).kind).toBe("repeated");
    expect(await entriesOf(db, shop, id)).toHaveLength(1);
  });

  it("believe a repeated identifier only of the same person, content and job", async () => {
    const id = await newJob();
    const one = asked(point("x"));
    await pressed(id, [one]);
    const other = { kind: "refused", because: "conflict" };
    expect(await pressed(id, [asked(point("y"), one.id)])).toMatchObject(other);
    expect(await pressed(id, [one], { accountId: null, name: "Somebody", role: "lead" })).toMatchObject(other);
    expect(await pressed(id, [one], { accountId: newId(), name: "Test", role: "lead" })).toMatchObject(other);
    const second = await newJob();
    expect(await pressed(second, [one])).toMatchObject(other);
    expect(await entriesOf(db, shop, second)).toEqual([]);
    expect((await jobById(db, shop, second))?.version).toBe(0);
  });

  it("write all entries of a press or none", async () => {
    const id = await newJob();
    const ghost: Command = { kind: "prove.result", data: { test: "ghost/try", answer: "pass", note: "" } };
    expect(await pressed(id, [asked(point("a")), asked(ghost)])).toMatchObject({ kind: "refused", because: "unsound" });
    expect(await entriesOf(db, shop, id)).toEqual([]);
    expect(await pressed(id, [asked(point("a")), asked(point("b"))])).toMatchObject({ kind: "written", version: 2 });
    const row = await jobById(db, shop, id);
    expect(row).toMatchObject({ version: 2, stage: "intake", nextAction: "Enter the identification number" });
  });

  it("keep every entry of twenty writers at once, in one order", async () => {
    const id = await newJob();
    const seen = await jobNow(id);
    const results = await Promise.all(
      Array.from({ length: 20 }, (_, i) => retried(() => pressed(id, [asked(point(`${i}`))], TEST, seen))),
    );
    expect(results.map((r) => r.kind)).toEqual(Array(20).fill("written"));
    const entries = await entriesOf(db, shop, id);
    expect(new Set(entries.map((e) => (e.kind === "handover.point" ? e.data.text : "")))).toHaveProperty("size", 20);
    expect((await jobById(db, shop, id))?.version).toBe(20);
  });

  it("get different numbers when created at the same moment", async () => {
    const ids = await Promise.all(Array.from({ length: 6 }, newJob));
    const rows = (await listJobs(db, shop)).filter((j) => ids.includes(j.id));
    expect(new Set(rows.map((j) => j.number)).size).toBe(6);
  });

  it("save the changed fields of a car sheet only, and show who changed the same field", async () => {
    const id = await newJob();
    const seen = await jobNow(id);
    await pressed(id, [asked(plate("A", ""))], { accountId: null, name: "Runa", role: "lead" });
    const odometer: Command = {
      kind: "intake.car",
      data: { changed: { odometer: "9 mi" }, before: { odometer: "" } },
    };
    expect((await pressed(id, [asked(odometer)], TEST, seen)).kind).toBe("written");
    const stale = await pressed(id, [asked(plate("C", ""))], TEST, seen);
    expect(stale).toMatchObject({ kind: "refused", because: "conflict", refusal: { theirs: { by: "Runa" } } });
    expect((await jobNow(id)).job.state.car).toMatchObject({ plate: "A", odometer: "9 mi" });
    expect((await pressed(id, [asked(plate("C", "A"))])).kind).toBe("written");
  });

  it("say what the other person did when it changes the answer", async () => {
    const id = await newJob();
    const seen = await jobNow(id);
    await pressed(id, [asked(point("Damper worn"))], { accountId: null, name: "Runa", role: "lead" });
    const late = await pressed(id, [asked(point("Damper worn"))], TEST, seen);
    expect(late).toMatchObject({ kind: "refused" });
    if (late.kind === "refused")
      expect(late.refusal.problem).toMatch(/^Runa was quicker: Noted for the customer: Damper worn\. .*noted already/);
  });

  it("take nothing once closed, whatever was undone before, until reopened", async () => {
    const id = await newJob();
    await pressed(id, [asked(point("early"))]);
    const close: Asked = asked({ kind: "handover.close", data: { as: "unfinished" } });
    const why = { entry: close.id, guard: "unfinished", reason: "The ferry leaves" };
    expect((await pressed(id, [close])).kind).toBe("refused");
    expect((await pressed(id, [asked({ kind: "despite", data: why }), close])).kind).toBe("written");
    expect((await jobById(db, shop, id))?.closedAt).toBeInstanceOf(Date);
    for (const command of [point("late"), undo(close.id), plate("X", "")])
      expect(await pressed(id, [asked(command)])).toMatchObject({ kind: "refused", because: "closed" });
    const reopen = asked({ kind: "handover.reopen", data: { reason: "test" } });
    expect((await pressed(id, [reopen])).kind).toBe("written");
    for (const entry of [close.id, reopen.id])
      expect(await pressed(id, [asked(undo(entry))])).toMatchObject({ kind: "refused", because: "unsound" });
    expect((await pressed(id, [asked(point("now"))])).kind).toBe("written");
    expect((await jobById(db, shop, id))?.closedAt).toBeNull();
  });

  it("teach what was repaired once they are closed, without what was undone, this shop alone", async () => {
    const id = await newJob();
    const repair = (fault: string): Command => ({ kind: "prove.repair", data: { fault } });
    const [right, wrong] = [asked(repair("open:audioLead")), asked(repair("open:videoOutLead"))];
    await pressed(id, [right]);
    await pressed(id, [wrong]);
    await pressed(id, [asked({ kind: "undo", data: { entry: wrong.id } })]);
    const kit = demoDocuments().kit.id;
    expect((await experienceOf(db, shop, kit)).repairs.map((r) => r.cause)).not.toContain("open:audioLead");
    await db.run("UPDATE job SET closed_at = NOW(3), kit_slug = ? WHERE id = ?", [kit, id]);
    const { repairs, jobsWithKit } = await experienceOf(db, shop, kit);
    expect(repairs).toContainEqual({ cause: "open:audioLead", jobs: 1, withKit: 1 });
    expect(repairs.map((r) => r.cause)).not.toContain("open:videoOutLead");
    expect(jobsWithKit).toBeGreaterThan(0);
    expect((await experienceOf(db, shop, "another")).repairs).toContainEqual({
      cause: "open:audioLead",
      jobs: 1,
      withKit: 0,
    });
    expect((await experienceOf(db, otherShop, kit)).repairs).toEqual([]);
  });

  it("are unknown to another shop", async () => {
    const id = await newJob();
    await pressed(id, [asked(point("x"))]);
    expect(await jobById(db, otherShop, id)).toBeNull();
    expect(await entriesOf(db, otherShop, id)).toEqual([]);
    expect(await listJobs(db, otherShop)).toEqual([]);
    const foreign = { ...(await jobNow(id)), shopId: otherShop };
    const result = await appendPress(db, [asked(point("y"))], TEST, async () => foreign);
    expect(result).toMatchObject({ kind: "refused" });
    expect(await entriesOf(db, shop, id)).toHaveLength(1);
  });
});

function undo(entry: string): Command {
  return { kind: "undo", data: { entry } };
}

/** Presses again while the server says that too many write at once. */
async function retried(press: () => ReturnType<typeof appendPress>) {
  let result = await press();
  for (let i = 0; i < 20 && result.kind === "refused" && result.refusal.remedy === "Press again."; i++)
    result = await press();
  return result;
}

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

  const fileOf = (jobId: string, more: Partial<NewFile> = {}): NewFile => ({
    id: newId(),
    shopId: shop,
    jobId,
    name: "x.log",
    what: "log",
    accountId: null,
    ...more,
  });
  const bytesOf = async (jobId: string, id: string): Promise<Uint8Array[]> => {
    const stored = await storedFile(db, shop, jobId, id);
    const read: Uint8Array[] = [];
    if (stored) for await (const piece of readFile(db, shop, stored)) read.push(piece);
    return read;
  };

  it("come back byte for byte from their chunks", async () => {
    const job = await newJob();
    const file = await storeFile(db, fileOf(job), pieces(30, 70_001), 10_000_000);
    expect(file.bytes).toBe(30 * 70_001);
    const back = await bytesOf(job, file.id);
    expect(back.reduce((n, p) => n + p.length, 0)).toBe(file.bytes);
    expect(back.length).toBeGreaterThan(1);
    expect(await storedFile(db, otherShop, job, file.id)).toBeNull();
  });

  it("leave nothing behind when they are too large or break off", async () => {
    const job = await newJob();
    const before = await leftovers();
    await expect(storeFile(db, fileOf(job), pieces(40, 100_000), 1_000_000)).rejects.toThrow(TooLarge);
    await expect(storeFile(db, fileOf(job), broken(), 9_000_000)).rejects.toThrow("connection lost");
    expect(await leftovers()).toEqual(before);
  });

  it("are never touched by a later attempt with the same identifier, complete or not", async () => {
    const job = await newJob();
    const file = fileOf(job);
    await storeFile(db, file, pieces(3, 1000), 9_000_000);
    const first = await bytesOf(job, file.id);
    await expect(storeFile(db, file, broken(), 9_000_000)).rejects.toThrow("connection lost");
    expect(await bytesOf(job, file.id)).toEqual(first);
    // The same again is one file; other bytes, another job, another person are refused.
    expect((await storeFile(db, file, pieces(3, 1000), 9_000_000)).id).toBe(file.id);
    const before = await leftovers();
    await expect(storeFile(db, file, pieces(2, 1000), 9_000_000)).rejects.toThrow(FileTaken);
    const second = await newJob();
    await expect(storeFile(db, { ...file, jobId: second }, pieces(3, 1000), 9_000_000)).rejects.toThrow(FileTaken);
    await expect(storeFile(db, { ...file, accountId: newId() }, pieces(3, 1000), 9_000_000)).rejects.toThrow(FileTaken);
    expect(await bytesOf(job, file.id)).toEqual(first);
    expect(await storedFile(db, shop, second, file.id)).toBeNull();
    expect(await leftovers()).toEqual(before);
  });

  it("sent twice at the same moment are one file", async () => {
    const job = await newJob();
    const file = fileOf(job);
    const both = await Promise.all([1, 2].map(() => storeFile(db, file, pieces(5, 200_000), 9_000_000)));
    expect(both[0]).toEqual(both[1]);
    expect((await bytesOf(job, file.id)).reduce((n, p) => n + p.length, 0)).toBe(1_000_000);
  });

  it("that broke off with the server are cleared away after a day", async () => {
    const left = newId();
    await db.run("INSERT INTO file_content (id, shop_id, created_at) VALUES (?, ?, ?)", [left, shop, new Date(0)]);
    await db.run("INSERT INTO job_chunk (content_id, position, shop_id, data) VALUES (?, 0, ?, ?)", [
      left,
      shop,
      new Uint8Array(9),
    ]);
    const before = await leftovers();
    expect(await purgeLeftovers(db)).toBe(1);
    expect(await leftovers()).toEqual({ contents: before.contents - 1, chunks: before.chunks - 1 });
  });

  async function* broken() {
    yield new Uint8Array(600_000);
    throw new Error("connection lost");
  }

  async function leftovers() {
    const [row] = await db.rows(
      z.object({ contents: z.number(), chunks: z.number() }),
      "SELECT (SELECT COUNT(*) FROM file_content) AS contents, (SELECT COUNT(*) FROM job_chunk) AS chunks",
    );
    return row ?? { contents: -1, chunks: -1 };
  }
});
