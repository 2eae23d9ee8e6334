/** The library on a real MariaDB: search, versions, drafts, bundles. */
import { strToU8, zipSync } from "fflate";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { LIBRARY_PHOTO_LIMIT_BYTES } from "../../core/job/photo";
import { createShop } from "../../db/accounts";
import type { Database } from "../../db/database";
import { createDraft, deleteDraft, draftById, listDrafts, saveDraft } from "../../db/drafts";
import { compareImport, readImport, takeImport } from "../../db/exchange";
import { newId } from "../../db/ids";
import { createJob } from "../../db/jobs";
import { libraryPhoto, photoName, photosOf, storePhoto } from "../../db/library-photos";
import {
  newestDocuments,
  type ProfileQuery,
  profileByPin,
  saveProfile,
  searchProfiles,
  versionsOf,
} from "../../db/profiles";
import { BundleError, isZip, readBundle, zipProfiles } from "../../profiles/bundle";
import { shippedLibrary } from "../../profiles/library";
import { freshDatabase } from "./harness";

let db: Database;
const shop = newId();
const otherShop = newId();
const rows = new Map<string, string>();
const library = shippedLibrary();
const NOTHING: ProfileQuery = { text: "", kind: "", connector: "", ways: "", year: "", country: "", screen: "" };
const find = async (query: Partial<ProfileQuery>, of = shop) =>
  (await searchProfiles(db, of, { ...NOTHING, ...query })).hits.map((h) => h.slug);

beforeAll(async () => {
  ({ db } = await freshDatabase("library"));
  await createShop(db, shop, "One");
  await createShop(db, otherShop, "Other");
  for (const p of library) rows.set(p.id, (await saveProfile(db, shop, p, "Test")).id);
});
afterAll(() => db.close());

describe("search", () => {
  it("finds by the beginning of every word, in any order", async () => {
    expect(await find({ text: "brack du" })).toEqual(["brackwater-duo"]);
    expect(await find({ text: "DUO brackwater" })).toEqual(["brackwater-duo"]);
    expect(await find({ text: "nothing-of-the-kind" })).toEqual([]);
    expect((await find({})).length).toBe(library.length);
  });

  it("narrows by connector, ways, year, country and screen", async () => {
    expect(await find({ kind: "car", year: "2012" })).toEqual(["kestrane-fjell-11", "kestrane-halden-14"]);
    expect(await find({ kind: "car", country: "is", year: "2012" })).toEqual(["kestrane-fjell-11"]);
    expect(await find({ kind: "variant", screen: "1280x480" })).toEqual(["velmora-corrie-19-r3", "sundrey-tarn-21-t1"]);
    expect(await find({ kind: "kit", connector: "ring main", ways: "18" })).toEqual(["orvanto-om8-ring"]);
  });

  it("takes % and _ as letters and quotes as text", async () => {
    expect(await find({ connector: "%" })).toEqual([]);
    expect(await find({ screen: "1024_600" })).toEqual([]);
    expect(await find({ text: "'; DROP TABLE profile; --" })).toEqual([]);
    expect((await find({})).length).toBe(library.length);
  });

  it("shows nothing of another shop", async () => {
    expect(await find({ text: "brackwater" }, otherShop)).toEqual([]);
  });

  it("follows the newest version and counts closed jobs", async () => {
    const kit = library.find((p) => p.id === "ostrel-line-1");
    if (kit?.document !== "kit") throw new Error("no such kit");
    await saveProfile(db, shop, { ...kit, title: "Ostrel Line renamed" }, "Test");
    expect(await find({ text: "renamed" })).toEqual(["ostrel-line-1"]);
    expect((await versionsOf(db, shop, "kit", kit.id)).map((v) => v.version)).toEqual([2, 1]);
    expect((await profileByPin(db, shop, "kit", kit.id, 1))?.profile.title).toBe(kit.title);
    expect((await newestDocuments(db, shop, "kit")).find((p) => p.id === kit.id)?.version).toBe(2);
    const line = {
      stage: "handover",
      nextAction: "",
      kit: { slug: kit.id, title: kit.title },
      variantSlug: "",
      carSlug: "kestrane-fjell-11",
    };
    const job = {
      shopId: shop,
      title: "T",
      customer: "",
      carProfile: rows.get("kestrane-fjell-11") ?? "",
      variantProfile: null,
      kitProfile: null,
      createdAt: new Date(),
      line,
    };
    const count = async () => (await searchProfiles(db, shop, { ...NOTHING, text: "renamed" })).hits[0]?.closedJobs;
    await createJob(db, { ...job, id: newId() });
    expect(await count()).toBe(0);
    await createJob(db, { ...job, id: newId(), closedAt: new Date() });
    expect(await count()).toBe(1);
  });
});

describe("drafts", () => {
  const draft = { id: newId(), kind: "kit" as const, title: "First", document: '{"a":1}', by: "One" };

  it("are kept as they are, whatever they hold", async () => {
    await createDraft(db, shop, draft);
    await createDraft(db, shop, { ...draft, document: '{"twice":true}' });
    expect(await draftById(db, shop, draft.id)).toMatchObject({ document: '{"a":1}', version: 1 });
    expect(await draftById(db, otherShop, draft.id)).toBeNull();
  });

  it("are never overwritten by somebody who saw an older one", async () => {
    expect(await saveDraft(db, shop, { ...draft, document: '{"a":2}' }, 1)).toEqual({ ok: true, version: 2 });
    const stale = await saveDraft(db, shop, { ...draft, document: '{"a":3}', by: "Two" }, 1);
    expect(stale).toMatchObject({ ok: false, theirs: { document: '{"a":2}', updatedBy: "One" } });
    expect(await saveDraft(db, shop, { ...draft, document: '{"a":2}' }, 1)).toEqual({ ok: true, version: 2 });
    expect((await listDrafts(db, shop))[0]?.id).toBe(draft.id);
    await deleteDraft(db, shop, draft.id);
    expect(await listDrafts(db, shop)).toEqual([]);
  });
});

describe("bundles", () => {
  it("come back as the same profiles", () => {
    const bytes = zipProfiles(library);
    expect(isZip(bytes)).toBe(true);
    expect(readBundle(bytes)).toEqual({
      profiles: JSON.parse(JSON.stringify(library)),
      about: null,
      photos: new Map(),
    });
  });

  it("bring the photos that their documents name, and none that is not what it is called", async () => {
    const [kit] = library.filter((p) => p.document === "kit");
    if (kit?.document !== "kit") throw new Error("no kit");
    const picture = (n: number) => Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, n]);
    const [plug, label] = [photoName(picture(1)), photoName(picture(2))];
    const parts = kit.parts.map((part, i) =>
      i > 0
        ? part
        : {
            ...part,
            photos: [
              { of: "plug" as const, sha256: plug },
              { of: "label" as const, sha256: label, say: "under the lid" },
            ],
          },
    );
    const pictured = { ...kit, id: "pictured-kit", parts };
    const files = new Map([
      [plug, picture(1)],
      [photoName(picture(3)), picture(3)],
    ]);
    const { profiles, photos } = readImport(zipProfiles([pictured], undefined, files));
    expect(photosOf(profiles)).toEqual([plug, label]);
    const forged = zipProfiles([pictured], undefined, new Map([[label, picture(9)]]));
    expect(() => readImport(forged)).toThrow("it does not hold what its name says");
    await db.transaction((sql) => takeImport(sql, shop, profiles, new Map([["kit/pictured-kit", 0]]), "Ines", photos));
    expect(await libraryPhoto(db, shop, plug)).toEqual(Buffer.from(picture(1)));
    expect(await libraryPhoto(db, shop, label)).toBeNull();
    expect(await libraryPhoto(db, shop, photoName(picture(3)))).toBeNull();
    const large = new Uint8Array(LIBRARY_PHOTO_LIMIT_BYTES + 1);
    large.set(picture(4));
    await expect(storePhoto(db, shop, large, "Ines")).rejects.toThrow("more than 2 MB");
  });

  it("say who wrote what and how often it was tried; what they say of it may be anything", () => {
    const [first] = library;
    if (!first) throw new Error("no library");
    const about = {
      shop: "Skerry Island Workshop",
      profiles: [{ kind: first.document, id: first.id, version: 1, by: "Tomas Ebdal", closedJobs: 3 }],
    };
    expect(readBundle(zipProfiles([first], about)).about).toEqual(about);
    const broken = zipSync({ "about.json": strToU8("{"), "car.json": strToU8(JSON.stringify(first)) });
    expect(readBundle(broken)).toMatchObject({ about: null, profiles: [{ id: first.id }] });
  });

  it("are compared with what the shop has, and taken over only as they were seen", async () => {
    const [mine, other, same] = library.filter((p) => p.document === "kit");
    if (!mine || !other || !same) throw new Error("no kits");
    await saveProfile(db, shop, mine, "Tomas Ebdal");
    await saveProfile(db, shop, same, "Tomas Ebdal");
    const theirs = { ...mine, price: mine.price + 11 };
    const fresh = { ...other, id: "never-seen-kit", title: "Never seen kit" };
    const file = { profiles: [fresh, theirs, same], about: null };
    const list = await compareImport(db, shop, file);
    expect(list.map((p) => p.state)).toEqual(["new", "differs", "same"]);
    expect(list[1]?.differences.map((d) => [d.path, d.before, d.after])).toEqual([
      ["price", String(mine.price), String(mine.price + 11)],
    ]);
    const seen = new Map(list.map((p) => [p.key, p.ours]));
    // Somebody else is quicker: nothing of the file is stored.
    await saveProfile(db, shop, { ...mine, price: 1 }, "Runa Sild");
    expect(await db.transaction((sql) => takeImport(sql, shop, file.profiles, seen, "Ines"))).toBeNull();
    expect((await profileByPin(db, shop, "kit", "never-seen-kit"))?.profile).toBeUndefined();
    const again = new Map((await compareImport(db, shop, file)).map((p) => [p.key, p.ours]));
    const taken = await db.transaction((sql) => takeImport(sql, shop, [theirs], again, "Ines"));
    expect(taken?.[0]).toMatchObject({ fresh: true, createdBy: "Ines" });
    // Two who saw the same: one is taken, the other must look again, whether the profile was there or not.
    const two = async (p: (typeof library)[number], round: number) => {
      const now = new Map((await compareImport(db, shop, { profiles: [p], about: null })).map((i) => [i.key, i.ours]));
      const both = ["One", "Two"].map((by, i) =>
        db.transaction((sql) => takeImport(sql, shop, [{ ...p, title: `${p.title} ${round}.${i}` }], now, by)),
      );
      return (await Promise.all(both)).filter((t) => t !== null).length;
    };
    for (let round = 0; round < 10; round++)
      expect(await two(round % 2 ? theirs : { ...fresh, id: `fresh-${round}` }, round)).toBe(1);
    // The versions before are still there.
    const versions = await versionsOf(db, shop, "kit", mine.id);
    expect(versions.map((v) => v.createdBy).slice(-3)).toEqual(["Ines", "Runa Sild", "Test"]);
  });

  it.each([
    ["../../etc/x.json", "path"],
    ["a/b.json", "path"],
    ["..\\x.json", "path"],
    ["note.txt", "no .json file"],
  ])("are refused with the file name %s", (name, reason) => {
    const bytes = zipSync({ [name]: strToU8("{}") });
    expect(() => readBundle(bytes)).toThrow(BundleError);
    expect(() => readBundle(bytes)).toThrow(reason);
  });

  it("are refused when unpacked they would be huge, before anything is unpacked", () => {
    const bomb = zipSync({ "big.json": new Uint8Array(5_000_000) }, { level: 9 });
    expect(bomb.length).toBeLessThan(20_000);
    expect(() => readBundle(bomb)).toThrow(/at most 4 MB/);
    const many = zipSync(Object.fromEntries(Array.from({ length: 2001 }, (_, i) => [`${i}.json`, strToU8("{}")])), {
      level: 0,
    });
    expect(() => readBundle(many)).toThrow(/more than 2000 files/);
  });

  it("name the file and the place of a bad profile", () => {
    const [first] = library;
    const bad = JSON.stringify({ ...first, gearbox: "magic" });
    expect(() => readBundle(zipSync({ "car.json": strToU8(bad) }))).toThrow(/car\.json › gearbox/);
    expect(() => readBundle(strToU8("PK but no zip"))).toThrow(/no zip file/);
  });
});
