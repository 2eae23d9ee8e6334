/** The built server against a real MariaDB: rights, refusals, double submits, large uploads, a database that goes away. */
import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { sleep } from "../../cli/common.mjs";
import { startMariadb } from "../../cli/mariadb.mjs";
import { BUS_FILE_LIMIT_BYTES, PIECE_BYTES } from "../../core/bus/limits";
import { newId } from "../../db/ids";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { recordOnCue } from "../../sim/on-cue";
import { filled, PATHS } from "../support/routes";
import { type DemoServer, jobNamed, startDemoServer } from "./harness";

let origin: string;
let server: DemoServer;
let technician: string;
let middleJob: string;
let waitingJob: string;

beforeAll(async () => {
  server = await startDemoServer("test-server", 23620, 5070);
  origin = server.origin;
  technician = await signIn("technician@skerry.example");
  middleJob = await jobNamed(origin, technician, "car 7");
  waitingJob = await jobNamed(origin, technician, "taxi");
});
afterAll(() => server.stop());

const signIn = (email: string) => server.signIn(email);
const PNG_HEAD = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
const get = (path: string, cookie = "") => fetch(origin + path, { headers: { cookie }, redirect: "manual" });
const post = (
  path: string,
  cookie: string,
  body: Record<string, string> | FormData,
  headers: Record<string, string> = {},
) =>
  fetch(origin + path, {
    method: "POST",
    body: body instanceof FormData ? body : new URLSearchParams(body),
    headers: { cookie, origin, ...headers },
    redirect: "manual",
  });
const append = (job: string, cookie: string, body: unknown, entry = newId(), more: Record<string, string> = {}) =>
  post(`/jobs/${job}/log.data`, cookie, { entry, body: JSON.stringify(body), ...more });

const OPEN = new Set(["/", "/ready", "/sign-in", "/sign-out", "/setup"]);
const guarded = PATHS.filter((p) => !OPEN.has(p));
/** A path with every parameter filled; identifiers are new ones unless given. */
const fill = (path: string, job: string, more: Record<string, string> = {}) =>
  filled(path, (name) => (name === "job" ? job : (more[name] ?? newId())));
/** Paths that only take actions: asking for them leads elsewhere or to nothing. */
const ACTIONS: Readonly<Record<string, number>> = {
  "/backup/make": 404,
  "/backup/check": 404,
  "/backup/:backup": 404,
  "/usual": 404,
  "/stock": 404,
  "/library/photos": 404,
  "/jobs/import": 302,
  "/jobs/:job": 302,
  "/jobs/:job/log": 302,
  "/jobs/:job/stand-in": 404,
  "/jobs/:job/units": 404,
  "/jobs/:job/photos": 404,
  "/jobs/:job/recording": 404,
  "/jobs/:job/proof": 404,
  "/jobs/:job/bus-map": 404,
  "/bare/:bytes": 404,
};

describe("rights", () => {
  it("knows all guarded routes", () => {
    expect(guarded.length).toBeGreaterThan(20);
  });

  it("shows no guarded page and takes no action without a sign-in", async () => {
    for (const path of guarded) {
      const page = await get(fill(path, middleJob));
      expect([path, page.status, page.headers.get("location")?.startsWith("/sign-in")]).toEqual([path, 302, true]);
      const action = await post(fill(path, middleJob), "", { x: "1" });
      expect([path, action.status]).toEqual([path, 401]);
    }
  });

  it("shows every page and resource to the people of its own shop", async () => {
    const lead = await signIn("lead@skerry.example");
    const exported = (await (await get(`/jobs/${middleJob}/export.json`, lead)).json()) as {
      entries: { kind: string; data: { file?: string } }[];
    };
    const photo = newId();
    await fetch(`${origin}/jobs/${middleJob}/photos?photo=${photo}`, {
      method: "POST",
      body: Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1]),
      headers: { cookie: lead, origin },
    });
    const shown = new FormData();
    shown.set("photo", new File([Uint8Array.from([...PNG_HEAD, 1])], "label.png"));
    const { sha256 } = (await (await post("/library/photos", lead, shown)).json()) as { sha256: string };
    const draft = newId();
    await post("/library/kit/orvanto-om8", lead, { what: "copy", draft });
    const library = await (await get("/library/kit/orvanto-om8", lead)).text();
    const profile = /library\/([0-9a-f-]{36})\.json/.exec(library)?.[1] ?? "";
    const coded = await (await get("/library/coding/kestrane-fjell-11-words", lead)).text();
    const map = /library\/([0-9a-f-]{36})\.csv/.exec(coded)?.[1] ?? "";
    const real = {
      map,
      file: exported.entries.find((e) => e.kind === "bus.file")?.data.file ?? "",
      photo,
      sha256,
      draft,
      profile,
      kind: "kit",
      slug: "orvanto-om8",
      form: "json",
      camera: "rearCamera",
    };
    const statuses: [string, number][] = [];
    for (const path of guarded) {
      const abort = new AbortController();
      const answer = await fetch(origin + fill(path, middleJob, real), {
        headers: { cookie: lead },
        redirect: "manual",
        signal: abort.signal,
      });
      statuses.push([path, answer.status]);
      abort.abort();
    }
    expect(statuses).toEqual(guarded.map((path) => [path, ACTIONS[path] ?? 200]));
  });

  it("answers 404 on every page of a job to another shop and for an unknown job", async () => {
    const other = await signIn("lead@mainland.example");
    for (const path of guarded.filter((p) => p.includes(":job"))) {
      expect([path, (await get(fill(path, middleJob), other)).status]).toEqual([
        path,
        path.endsWith("/log") ? 302 : 404,
      ]);
      expect([path, (await get(fill(path, newId()), technician)).status]).toEqual([
        path,
        path.endsWith("/log") ? 302 : 404,
      ]);
    }
    expect((await append(middleJob, other, { kind: "handover.point", data: { text: "x" } })).status).toBe(404);
    expect((await get("/jobs/nonsense/intake", technician)).status).toBe(404);
  });

  it("lets a reader read and refuses every change", async () => {
    const reader = await signIn("reader@skerry.example");
    expect((await get(`/jobs/${middleJob}/prove`, reader)).status).toBe(200);
    const answer = await append(middleJob, reader, { kind: "handover.point", data: { text: "x" } });
    expect(answer.status).toBe(403);
    expect(await answer.text()).toContain("read-only");
  });

  it("keeps photos of the library within the shop, from those who may write, and only pictures", async () => {
    const photo = (bytes: number[]) => {
      const form = new FormData();
      form.set("photo", new File([Uint8Array.from(bytes)], "plug.png"));
      return form;
    };
    const sent = await post("/library/photos", technician, photo([...PNG_HEAD, 7]));
    const { sha256 } = (await sent.json()) as { sha256: string };
    expect(sha256).toBe(
      createHash("sha256")
        .update(Uint8Array.from([...PNG_HEAD, 7]))
        .digest("hex"),
    );
    const own = await get(`/library/photos/${sha256}`, technician);
    expect([own.status, own.headers.get("content-type")]).toEqual([200, "image/png"]);
    expect((await get(`/library/photos/${sha256}`, await signIn("lead@mainland.example"))).status).toBe(404);
    expect((await get("/library/photos/..%2Fsecret", technician)).status).toBe(404);
    const reader = await signIn("reader@skerry.example");
    expect((await post("/library/photos", reader, photo([...PNG_HEAD, 7]))).status).toBe(403);
    expect((await post("/library/photos", technician, photo([1, 2, 3]))).status).toBe(422);
    expect((await post("/library/photos", technician, { photo: "no file" })).status).toBe(400);
  });

  it("lets only the lead import profiles", async () => {
    const form = new FormData();
    form.set("file", new File(["{}"], "x.json"));
    expect((await post("/library", technician, form)).status).toBe(403);
  });

  it("lets only the lead back up the shop, and gives it to nobody else", async () => {
    expect((await post("/backup/make", technician, {})).status).toBe(403);
    expect((await get("/backup", technician)).status).toBe(403);
    const lead = await signIn("lead@skerry.example");
    const told = (await (await post("/backup/make", lead, {})).text()).trim().split("\n");
    const { made } = JSON.parse(told.at(-1) ?? "{}") as { made: { name: string; bytes: number } };
    expect(made.name).toMatch(/^iteron-\d{8}-\d{6}\.backup$/);
    const path = `/backup/${made.name}`;
    const file = new Uint8Array(await (await get(path, lead)).arrayBuffer());
    expect(file.length).toBe(made.bytes);
    expect(new TextDecoder().decode(file.subarray(0, 13))).toBe("manifest.json");
    const elsewhere = await Promise.all([get(path, await signIn("lead@mainland.example")), get(path, technician)]);
    expect(elsewhere.map((a) => a.status)).toEqual([404, 403]);
    expect((await get("/backup/..%2F..%2Fsecret", lead)).status).toBe(404);
    // Sent back it is found whole; cut, or nothing at all, it is not; and nobody but the lead may ask.
    const check = async (cookie: string, bytes: Uint8Array<ArrayBuffer>) => {
      const answer = await fetch(`${origin}/backup/check?name=monday.backup`, {
        method: "POST",
        body: bytes,
        headers: { cookie, origin },
      });
      return [answer.status, await answer.text()];
    };
    expect(await check(lead, file)).toEqual([200, expect.stringContaining('"ofThisShop":true')]);
    expect(await check(await signIn("lead@mainland.example"), file)).toEqual([
      200,
      expect.stringContaining('"ofThisShop":false'),
    ]);
    expect(await check(lead, file.slice(0, file.length / 2))).toEqual([
      422,
      expect.stringContaining("monday.backup: "),
    ]);
    expect(await check(lead, new Uint8Array())).toEqual([400, expect.stringContaining("Choose a backup")]);
    expect((await check(technician, file.slice(0, 100)))[0]).toBe(403);
    expect(await (await get("/backup", lead)).text()).toContain("Read to its end");
  });

  it("refuses changes that come from elsewhere", async () => {
    for (const headers of [{ origin: "http://evil.example" }, { origin: "" }]) {
      expect((await post(`/jobs/${middleJob}/log`, technician, { entry: newId(), body: "{}" }, headers)).status).toBe(
        403,
      );
    }
  });

  it("sends a policy without inline script except by nonce", async () => {
    const page = await get("/board", technician);
    const policy = page.headers.get("content-security-policy") ?? "";
    const nonce = /script-src 'self' 'nonce-([^']+)'/.exec(policy)?.[1];
    const scripts = [...(await page.text()).matchAll(/<script([^>]*)>/g)]
      .map((m) => m[1] ?? "")
      .filter((a) => !/src=|application\/json/.test(a));
    expect(scripts.length).toBeGreaterThan(0);
    expect(scripts.every((a) => a.includes(`nonce="${nonce}"`))).toBe(true);
  });
});

describe("bad input", () => {
  it("takes a form sent twice as one entry", async () => {
    const entry = newId();
    const body = { kind: "handover.point", data: { text: "sent twice" } };
    const before = Number(await (await get(`/jobs/${waitingJob}/version`, technician)).text());
    const answers = await Promise.all([
      append(waitingJob, technician, body, entry),
      append(waitingJob, technician, body, entry),
    ]);
    expect(answers.map((a) => a.status)).toEqual([200, 200]);
    expect(Number(await (await get(`/jobs/${waitingJob}/version`, technician)).text())).toBe(before + 1);
  });

  it("names what is wrong with an entry and stores nothing", async () => {
    const before = await (await get(`/jobs/${waitingJob}/version`, technician)).text();
    const unknown = await append(waitingJob, technician, {
      kind: "connect.plug",
      data: { link: "nowhere", plugged: true },
    });
    expect([unknown.status, await unknown.text()]).toEqual([422, expect.stringContaining("no connection “nowhere”")]);
    expect((await append(waitingJob, technician, { kind: "party", data: {} })).status).toBe(400);
    const airbag = await append(waitingJob, technician, {
      kind: "strip.step",
      data: { step: "vents", direction: "in" },
    });
    expect([airbag.status, await airbag.text()]).toEqual([422, expect.stringContaining("battery is connected")]);
    expect(await (await get(`/jobs/${waitingJob}/version`, technician)).text()).toBe(before);
  });

  it("refuses what a device has kept with another version of the program, and says what to do", async () => {
    const body = { kind: "handover.point", data: { text: "from another version" } };
    const before = await (await get(`/jobs/${waitingJob}/version`, technician)).text();
    const sent = async (version: string, what: object = body) => {
      const answer = await append(waitingJob, technician, what, newId(), { version });
      return [answer.status, await answer.text()];
    };
    expect(await sent("7")).toEqual([409, expect.stringMatching(/handover\.point.*newer Iteron.*kept here/)]);
    expect(await sent("0")).toEqual([409, expect.stringMatching(/older Iteron.*load the page again/)]);
    expect(await sent("1", { kind: "party.balloon", data: {} })).toEqual([
      409,
      expect.stringContaining("party.balloon"),
    ]);
    expect(await (await get(`/jobs/${waitingJob}/version`, technician)).text()).toBe(before);
    expect((await sent("1"))[0]).toBe(200);
  });

  it("puts a tick from a device without connection at its own time, and never in the future", async () => {
    const tick = (step: string, age: string) =>
      post(`/jobs/${waitingJob}/log`, technician, {
        entry: newId(),
        age,
        body: JSON.stringify({ kind: "strip.step", data: { step, direction: "in" } }),
      });
    const before = Date.now();
    expect((await tick("brake", "3600000")).status).toBe(200);
    expect((await tick("key-on", "-5")).status).toBe(400);
    expect((await tick("key-on", "99999999999999")).status).toBe(200);
    const kept = await (await get(`/jobs/${waitingJob}/kept.json`, technician)).json();
    const at = (step: string) =>
      Date.parse(kept.entries.find((e: { data: { step?: string } }) => e.data.step === step).at);
    expect(Math.abs(before - 3_600_000 - at("brake"))).toBeLessThan(60_000);
    // A clock from another age counts as a week at most.
    expect(before - at("key-on")).toBeLessThan(8 * 24 * 3_600_000);
    const stranger = await signIn("lead@mainland.example");
    for (const page of ["hands", "kept.json", "trays.pdf", "learned"])
      expect([page, (await get(`/jobs/${waitingJob}/${page}`, stranger)).status]).toEqual([page, 404]);
  });

  it("lets a plan be changed on the car only so that it can be followed", async () => {
    const say = async (kind: string, data: object) => {
      const answer = await append(waitingJob, technician, { kind, data } as never);
      return [answer.status, await answer.text()];
    };
    const nowhere = await say("strip.skip", { step: "moonwalk", reason: "not there" });
    expect(nowhere).toEqual([422, expect.stringContaining("no step “moonwalk”")]);
    expect(await say("strip.skip", { step: "vents", reason: "" })).toEqual([400, expect.stringContaining("left out")]);
    expect(await say("strip.split", { step: "brake", parts: ["one", "two"] })).toEqual([
      422,
      expect.stringContaining("no step “brake”"),
    ]);
    expect(await say("strip.count", { step: "vents", group: 3, direction: "out", count: 1 })).toEqual([
      422,
      expect.stringContaining("vents/3"),
    ]);
    expect(await say("strip.add", { id: "own-1", before: "ghost", title: "x", detail: "" })).toEqual([
      422,
      expect.stringContaining("“ghost”"),
    ]);
    expect((await say("strip.want", { step: "tailgate", wanted: true }))[0]).toBe(200);
    expect((await say("strip.note", { step: "vents", note: "dry clips" }))[0]).toBe(200);
  });

  it("never takes a safety circuit as feed, nor any where the kit asks for none", async () => {
    const take = async (position: string) => {
      const answer = await append(waitingJob, technician, { kind: "connect.feed", data: { position } });
      return [answer.status, await answer.text()];
    };
    expect(await take("F1")).toEqual([422, expect.stringContaining("never used: airbag")]);
    expect(await take("F9")).toEqual([422, expect.stringContaining("never used: lighting")]);
    expect(await take("F3")).toEqual([422, expect.stringContaining("takes its power where it is plugged")]);
    expect(await take("F99")).toEqual([422, expect.stringContaining("no fuse position “F99”")]);
  });

  it("shows a stale edit the other person's words, and takes back nothing that somebody else wrote", async () => {
    const opened = {
      identification: "",
      plate: "SK 3041",
      odometer: "88210 km",
      firmware: "",
      faultCodes: "",
      note: "",
    };
    const save = (fields: Record<string, string>, seen: object) =>
      post(`/jobs/${waitingJob}/intake.data`, technician, {
        identification: "",
        plate: "SK 3041",
        odometer: "88210",
        odometerUnit: "km",
        note: "",
        ...fields,
        opened: JSON.stringify(seen),
        entry: newId(),
      });
    const page = await (await get(`/jobs/${waitingJob}/intake`, technician)).text();
    const seen = { ...opened, note: "Driver waits until noon." };
    expect(page).toContain("Driver waits until noon.");
    expect((await save({ plate: "NEW 1", note: seen.note }, seen)).status).toBe(200);
    // Somebody with the older page changes another field: both changes stand.
    expect((await save({ odometer: "88300", note: seen.note }, seen)).status).toBe(200);
    const stale = await save({ plate: "NEW 2", note: seen.note }, seen);
    expect([stale.status, await stale.text()]).toEqual([409, expect.stringContaining("NEW 1")]);
    const after = await (await get(`/jobs/${waitingJob}/intake`, technician)).text();
    expect(after).toContain('value="NEW 1"');
    expect(after).toContain('value="88300"');
  });

  describe("a bus file that comes in pieces", () => {
    const log = gzipSync(
      Array.from({ length: 3000 }, (_, i) => `(${i}.000000) can0 123#${(i % 256).toString(16).padStart(2, "0")}`).join(
        "\n",
      ),
    );
    const at = (id: string, query: string) => `${origin}/jobs/${waitingJob}/uploads/${id}${query}`;
    const send = (id: string, query: string, body: Uint8Array | null, cookie = technician) =>
      fetch(at(id, query), { method: "POST", body, headers: { cookie, origin } } as RequestInit);
    const stands = async (id: string) => (await fetch(at(id, ""), { headers: { cookie: technician } })).json();

    it("goes on where it broke off, takes no piece twice, and is the file that was sent", async () => {
      const id = newId();
      expect(await stands(id)).toEqual({ received: 0 });
      expect(await (await send(id, "?at=0", log.subarray(0, 100))).json()).toEqual({ ok: true, received: 100 });
      // The answer was lost and the piece comes again; one beyond the end does not fit.
      expect(await (await send(id, "?at=0", log.subarray(0, 100))).json()).toEqual({ ok: true, received: 100 });
      expect(await (await send(id, "?at=500", log.subarray(500, 600))).json()).toEqual({ ok: true, received: 100 });
      expect(await stands(id)).toEqual({ received: 100 });
      await Promise.all([1, 2, 3].map(() => send(id, "?at=100", log.subarray(100))));
      expect(await stands(id)).toEqual({ received: log.length });
      const entry = newId();
      const end = () => send(id, `?entry=${entry}&name=on-cue.log`, null);
      expect(await (await end()).json()).toEqual({ ok: true, file: id });
      expect(await (await end()).json()).toEqual({ ok: true, file: id });
      const stored = await fetch(`${origin}/jobs/${waitingJob}/files/${id}`, { headers: { cookie: technician } });
      expect(Buffer.from(await stored.arrayBuffer()).equals(log)).toBe(true);
      const page = await (await get(`/jobs/${waitingJob}/bus`, technician)).text();
      expect(page.split("on-cue.log").length).toBeGreaterThan(1);
    });

    it("is refused when it is no log, does not arrive whole, or a piece is too long; nothing is left of it", async () => {
      const ending = async (body: Uint8Array, name: string) => {
        const id = newId();
        await send(id, "?at=0", body);
        const answer = await send(id, `?entry=${newId()}&name=${name}`, null);
        expect(await stands(id)).toEqual({ received: 0 });
        return [answer.status, (await answer.json()).message];
      };
      expect(await ending(gzipSync("a,b,c\n1,2,3\n"), "x.log")).toEqual([422, expect.stringContaining("is not read")]);
      expect(await ending(log, "x.dbc")).toEqual([422, expect.stringContaining("BO_ 288")]);
      expect(await ending(log.subarray(0, log.length - 9), "x.log")).toEqual([
        422,
        expect.stringContaining("did not arrive whole"),
      ]);
      expect(await ending(new TextEncoder().encode("plain"), "x.log")).toEqual([
        422,
        expect.stringContaining("did not arrive whole"),
      ]);
      const long = new Uint8Array(PIECE_BYTES + 1);
      expect((await send(newId(), "?at=0", long)).status).toBe(413);
      expect((await send(newId(), `?at=${BUS_FILE_LIMIT_BYTES + 1}`, log)).status).toBe(413);
    });

    it("is proven on only when it is another recording than the one the signals were found in", async () => {
      const key = { id: "wheelKeys", name: "wheel keys", kind: "keys", rest: "none" };
      const cues = [5, 9, 13].map((fromS) => ({ thing: "wheelKeys", label: "volume up", fromS, toS: fromS + 1.2 }));
      const stored = async (bytes: Uint8Array, name: string) => {
        const id = newId();
        await send(id, "?at=0", bytes);
        expect((await send(id, `?entry=${newId()}&name=${name}`, null)).status).toBe(200);
        await append(waitingJob, technician, { kind: "bus.cues", data: { file: id, things: [key], cues } });
        return id;
      };
      const recording = (seed: number) => gzipSync(recordOnCue(cues, { seed, startS: 1000 }).log);
      const found = await stored(recording(1), "found.log");
      const twin = await stored(recording(1), "copy.log");
      const other = await stored(recording(2), "other.log");
      const signal = {
        signal: "Key",
        message: "Wheel",
        id: 704,
        extended: false,
        bytes: 2,
        startBit: 0,
        length: 8,
        littleEndian: true,
        signed: false,
        factor: 1,
        offset: 0,
        unit: "",
        values: [[1, "volume up"]],
        page: null,
        file: found,
        thing: "wheel keys",
      };
      await append(waitingJob, technician, { kind: "bus.signal", data: signal });
      const rule = {
        output: "volumeUp",
        when: [[{ signal: "Wheel.Key", is: "=", value: 1 }]],
        level: null,
        debounceMs: 50,
        holdMs: 0,
        timeoutMs: 1000,
        missing: "off",
        longMs: 700,
      };
      const impossible = await append(waitingJob, technician, {
        kind: "bus.translation",
        data: { rules: [{ ...rule, when: [[{ signal: "Wheel.Key", is: ">", value: 255 }]] }] },
      });
      expect(await impossible.text()).toContain("never switches on");
      await append(waitingJob, technician, { kind: "bus.translation", data: { rules: [rule] } });
      const prove = async (file: string) =>
        (await post(`/jobs/${waitingJob}/proof`, technician, { entry: newId(), file })).text();
      expect(await prove(found)).toContain("what was found in it always fits it");
      expect(await prove(twin)).toContain("under another name");
      expect(await prove(newId())).toContain("not stored in this shop");
      // A client cannot write figures of its own.
      expect(
        await (await append(waitingJob, technician, { kind: "bus.proof", data: { file: other, outputs: [] } })).text(),
      ).toContain("changed meanwhile");
      expect(await prove(other)).toContain('"ok":true');
      const page = await (await get(`/jobs/${waitingJob}/bus/translation`, technician)).text();
      expect(page).toContain("3 of 3");
      const json = await (await get(`/jobs/${waitingJob}/translation-file/json`, technician)).json();
      expect([json.format, json.rules, json.signals[0].signal]).toEqual(["iteron-translation", [rule], "Key"]);
      expect(await (await get(`/jobs/${waitingJob}/translation-file/csv`, technician)).text()).toContain(
        "Key: volume up,Wheel.Key = 1,50",
      );
      expect(await (await get(`/jobs/${waitingJob}/bus-map.dbc`, technician)).text()).toContain("SG_ Key : 0|8@1+");
    });

    it("belongs to whoever began it", async () => {
      const id = newId();
      await send(id, "?at=0", log.subarray(0, 100));
      const lead = await signIn("lead@skerry.example");
      expect((await send(id, "?at=100", log.subarray(100), lead)).status).toBe(409);
      expect(await stands(id)).toEqual({ received: 100 });
    });
  });

  it("refuses a profile that breaks the schema, naming the place", async () => {
    const lead = await signIn("lead@skerry.example");
    const { kit } = demoDocuments();
    const text = JSON.stringify(kit).replace('"gender":"male"', '"gender":"neuter"');
    const form = new FormData();
    form.set("file", new File([text], "kit.json"));
    const answer = await post("/library.data", lead, form);
    expect([answer.status, await answer.text()]).toEqual([
      422,
      expect.stringMatching(/parts\[0\] \(Interface module\).*gender/),
    ]);
  });

  it("exports a job and imports it back as the same job", async () => {
    const exported = await (await get(`/jobs/${middleJob}/export.json`, technician)).text();
    const form = new FormData();
    form.set("file", new File([exported], "job.json"));
    const answer = await post("/jobs/import", technician, form);
    expect(answer.status).toBe(302);
    const id = answer.headers.get("location")?.split("/").at(-1) ?? "";
    expect(await (await get(`/jobs/${id}/handover`, technician)).text()).toContain("imported by Tomas Ebdal");
    const again = JSON.parse(await (await get(`/jobs/${id}/export.json`, technician)).text());
    const first = JSON.parse(exported);
    const bare = (e: { kind: string; data: unknown; at: string; by: string }) => [e.kind, e.data, e.at, e.by];
    expect(again.entries.map(bare)).toEqual(first.entries.map(bare));
    expect(again.documents).toEqual(first.documents);
    const broken = new FormData();
    broken.set("file", new File([exported.replace('"iteron-job"', '"other"')], "job.json"));
    const refused = await post("/jobs/import.data", technician, broken);
    expect([refused.status, await refused.text()]).toEqual([422, expect.stringContaining("format")]);
  });
  it("asks when the same file comes twice, also at the same moment, and takes it when that is meant", async () => {
    const exported = await (await get(`/jobs/${middleJob}/export.json`, technician)).text();
    const bring = (again: boolean) => {
      const form = new FormData();
      form.set("file", new File([`${exported} `], "job.json"));
      if (again) form.set("again", "1");
      return post("/jobs/import.data", technician, form);
    };
    const statuses = (await Promise.all([bring(false), bring(false), bring(false)])).map((a) => a.status);
    expect(statuses.sort()).toEqual([202, 409, 409]);
    const asked = await bring(false);
    expect([asked.status, await asked.text()]).toEqual([409, expect.stringMatching(/brought in before, as job.*\d+/)]);
    expect((await bring(true)).status).toBe(202);
  });

  it("puts the documents that it brings beside those of the library", async () => {
    const text = await (await get(`/jobs/${middleJob}/export.json`, technician)).text();
    const job = JSON.parse(text);
    const title = `${job.documents.kit.title} of another shop`;
    job.documents.kit.title = title;
    const form = new FormData();
    form.set("file", new File([JSON.stringify(job)], "job.json"));
    const answer = await post("/jobs/import.data", technician, form);
    const to = /\/jobs\/([0-9a-f-]{36})/.exec(await answer.text())?.[1] ?? "";
    const there = await (await get(`/jobs/${to}/export.json`, technician)).json();
    expect(there.documents.kit.title).toBe(title);
    const kit = `/library/kit/${job.documents.kit.id}`;
    const page = await (await get(kit, technician)).text();
    expect(/<h1[^>]*>([^<]*)</.exec(page)?.[1]).toBe(title.replace(" of another shop", ""));
    // Only the lead lets new jobs take what came with it.
    const take = async (cookie: string) =>
      (await post(`${kit}.data`, cookie, { what: "take", version: String(there.documents.kit.version) })).status;
    const lead = await signIn("lead@skerry.example");
    expect([await take(technician), await take(lead)]).toEqual([403, 202]);
    expect(/<h1[^>]*>([^<]*)</.exec(await (await get(kit, technician)).text())?.[1]).toBe(title);
    await post(`${kit}.data`, lead, { what: "take", version: String(job.documents.kit.version) });
    expect(/<h1[^>]*>([^<]*)</.exec(await (await get(kit, technician)).text())?.[1]).not.toBe(title);
  });

  it("brings photos and logs along, the same bytes under new names, and says when they are missing", async () => {
    const picture = Uint8Array.from({ length: 3000 }, (_, i) => (i < 8 ? (PNG_HEAD[i] ?? 0) : (i * 31) % 256));
    const id = newId();
    const sent = await fetch(`${origin}/jobs/${middleJob}/photos?photo=${id}`, {
      method: "POST",
      body: picture,
      headers: { cookie: technician, origin },
    });
    expect(sent.status).toBe(200);
    const zip = new Uint8Array(await (await get(`/jobs/${middleJob}/export.zip`, technician)).arrayBuffer());
    const form = new FormData();
    form.set("file", new File([zip], "job.zip"));
    const answer = await post("/jobs/import.data", technician, form);
    const to = /\/jobs\/([0-9a-f-]{36})/.exec(await answer.text())?.[1] ?? "";
    const again = unzipSync(new Uint8Array(await (await get(`/jobs/${to}/export.zip`, technician)).arrayBuffer()));
    const job = JSON.parse(strFromU8(again["job.json"] ?? new Uint8Array()));
    const first = unzipSync(zip);
    expect(listedByPython(zip)).toEqual(Object.entries(first).map(([name, b]) => [name, b.length]));
    expect(Object.keys(again).length).toBe(Object.keys(first).length);
    expect(Object.keys(again)).not.toContain(`files/${id}`);
    const bytes = (all: Record<string, Uint8Array>) =>
      Object.entries(all).flatMap(([name, b]) =>
        name.startsWith("files/") ? [Buffer.from(b).toString("base64")] : [],
      );
    expect(bytes(again).sort()).toEqual(bytes(first).sort());
    expect(bytes(again)).toContain(Buffer.from(picture).toString("base64"));
    // What the log names is there under its new name.
    const named = (job.entries as { data: { photo?: string; file?: string } }[]).flatMap(
      (e) => e.data.photo ?? e.data.file ?? [],
    );
    expect(named.length).toBeGreaterThan(0);
    for (const file of named) expect(Object.keys(again)).toContain(`files/${file}`);
    // Without its files it is refused, and nothing is half there.
    const alone = new FormData();
    alone.set("file", new File([first["job.json"] ?? new Uint8Array()], "job.json"));
    const refused = await post("/jobs/import.data", technician, alone);
    expect([refused.status, await refused.text()]).toEqual([422, expect.stringContaining("Take the zip of the job")]);
  });
});

/** Names and lengths in a zip as Python's own reader has them, every checksum tried. */
function listedByPython(zip: Uint8Array): [name: string, bytes: number][] {
  const folder = mkdtempSync(join(tmpdir(), "iteron-zip-"));
  try {
    const file = join(folder, "job.zip");
    writeFileSync(file, zip);
    const script =
      "import zipfile,json,sys\nz=zipfile.ZipFile(sys.argv[1])\nassert z.testzip() is None\nprint(json.dumps([[i.filename,i.file_size] for i in z.infolist()]))";
    return JSON.parse(execFileSync("python3", ["-c", script, file], { encoding: "utf8" }));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/*
 * Uploads follow OWASP's cheat sheet on file upload (file type validation by content and not by what the sender says,
 * a name of the program's own, a limit of size, rights before anything is read, kept outside of what the server gives
 * out as pages, given back with a type of the program's choice); from memory.
 */
describe("intake and fit over the wire", () => {
  const photo = (bytes: Uint8Array, id = newId()) =>
    fetch(`${origin}/jobs/${waitingJob}/photos?photo=${id}`, {
      method: "POST",
      body: new Uint8Array(bytes),
      headers: { cookie: technician, origin },
    });
  const PNG = Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3]);

  it("takes a photo once, gives it back as the picture it is, and to no other shop", async () => {
    const id = newId();
    expect((await photo(PNG, id)).status).toBe(200);
    expect((await photo(PNG, id)).status).toBe(200);
    const answer = await get(`/jobs/${waitingJob}/photos/${id}`, technician);
    expect([answer.headers.get("content-type"), answer.headers.get("x-content-type-options")]).toEqual([
      "image/png",
      "nosniff",
    ]);
    expect(new Uint8Array(await answer.arrayBuffer())).toEqual(PNG);
    const stranger = await signIn("lead@mainland.example");
    expect((await get(`/jobs/${waitingJob}/photos/${id}`, stranger)).status).toBe(404);
    expect((await get(`/jobs/${middleJob}/photos/${id}`, technician)).status).toBe(404);
  });

  it("refuses what is no picture, and an empty one", async () => {
    const script = await photo(new TextEncoder().encode("<svg onload=alert(1)>"));
    expect([script.status, await script.text()]).toEqual([422, expect.stringContaining("no picture")]);
    expect((await photo(new Uint8Array())).status).toBeGreaterThanOrEqual(400);
  });

  it("refuses radios and kits that the library has not or that belong elsewhere, and stores nothing", async () => {
    const radio = (slug: string, version = 1) => ({
      kind: "intake.variant",
      data: { variant: { slug, version }, answers: {} },
    });
    const kit = (slug: string) => ({ kind: "fit.kit", data: { kit: { slug, version: 1 }, choices: {} } });
    const refused = async (body: unknown) => {
      const answer = await append(waitingJob, technician, body);
      return `${answer.status} ${await answer.text()}`;
    };
    expect(await refused(radio("no-such-radio"))).toMatch(/^422.*no variant/s);
    expect(await refused(radio("velmora-corrie-19-r2", 99))).toMatch(/^422.*version 99/s);
    expect(await refused(radio("sundrey-vale-19-v1"))).toMatch(/^422.*belongs to the car sundrey-vale-19/s);
    expect(await refused(kit("ostrel-talk-key"))).toMatch(/^422.*phone key/s);
    expect(await (await get(`/jobs/${waitingJob}/fit`, technician)).text()).toContain("Orvanto OM-8");
  });

  it("makes an offer of a kit that is only looked at, and says what is wrong with an unknown one", async () => {
    const offer = await get(`/jobs/${waitingJob}/offer.pdf?kit=brackwater-view&frontCamera=fitted`, technician);
    expect(offer.headers.get("content-type")).toBe("application/pdf");
    expect((await get(`/jobs/${waitingJob}/offer.pdf?kit=teapot`, technician)).status).toBe(404);
    expect((await get(`/jobs/${waitingJob}/compare?kit=brackwater-view&kit=orvanto-om8`, technician)).status).toBe(200);
  });

  it("lets the lead alone choose the shop's usual way", async () => {
    const usual = { choice: "closing", option: "upperEarly" };
    expect((await post("/usual.data", technician, usual)).status).toBe(403);
    expect((await post("/usual.data", await signIn("lead@skerry.example"), usual)).status).toBe(200);
    const page = await (await get(`/jobs/${waitingJob}/fit?kit=brackwater-view`, technician)).text();
    expect(page).toContain("Close the upper dash as soon as its leads are through");
  });
});

describe("connect over the wire", () => {
  const plug = (link: string, at?: string) => ({
    kind: "connect.plug",
    data: { link, plugged: true, ...(at ? { at } : {}) },
  });
  const both = (entries: [string, unknown][]) => {
    const form = new FormData();
    for (const [entry, body] of entries) {
      form.append("entry", entry);
      form.append("body", JSON.stringify(body));
    }
    return post(`/jobs/${waitingJob}/log.data`, technician, form);
  };

  it("takes what one press means as entries in their order, once", async () => {
    const two: [string, unknown][] = [
      [newId(), plug("k-in-module", "module.videoOut")],
      [newId(), plug("k-in-module")],
    ];
    // The harness is in from an earlier press, and the ignition may be on: plugs are plugged with the key off.
    const off = { kind: "strip.stands", data: { sets: { key: "off" } } };
    await both([[newId(), off]]);
    const first = await both(two);
    expect([first.status, await first.text()]).toEqual([200, expect.any(String)]);
    const again = await both(two);
    expect([again.status, await again.text()]).toEqual([200, expect.stringContaining("repeated")]);
    const file = await (await get(`/jobs/${waitingJob}/export.json`, technician)).json();
    const entries = (file as { entries: { id: string }[] }).entries.map((e) => e.id);
    expect(two.map(([id]) => entries.filter((e) => e === id).length)).toEqual([1, 1]);
  });

  it("refuses a press without entries, and stops at the first that does not make sense", async () => {
    expect((await both([])).status).toBe(400);
    const good = newId();
    const answer = await both([
      [newId(), plug("teapot")],
      [good, plug("k-in-module")],
    ]);
    expect([answer.status, await answer.text()]).toEqual([422, expect.stringContaining("no connection “teapot”")]);
    expect(await (await get(`/jobs/${waitingJob}/export.json`, technician)).text()).not.toContain(good);
  });

  it.each([
    [{ kind: "connect.place", data: { part: "kitMic", place: "moon" } }, /no place “moon”.*glovebox space/s],
    [{ kind: "connect.place", data: { part: "radio", place: "sill" } }, /no part that can lie elsewhere/],
    [{ kind: "connect.task", data: { task: "park nothing", done: true } }, /no task “park nothing”/],
    [{ kind: "connect.plug", data: { link: "k-mic", plugged: true, turned: true } }, /goes in one way only/],
    [{ kind: "connect.tap", data: { lit: true } }, /no tap on this job/],
  ])("refuses %j with the reason", async (body, reason) => {
    const answer = await append(waitingJob, technician, body);
    expect([answer.status, await answer.text()]).toEqual([422, expect.stringMatching(reason)]);
  });

  it("counts the shelf with a comma or a point, and refuses words", async () => {
    expect((await post("/stock.data", technician, { what: "Ties", amount: "40" })).status).toBe(200);
    expect((await post("/stock.data", technician, { what: "Foam tape", amount: "2,5" })).status).toBe(200);
    for (const amount of ["many", "-1", ""])
      expect((await post("/stock.data", technician, { what: "Ties", amount })).status).toBe(400);
    const reader = await signIn("reader@skerry.example");
    expect((await post("/stock.data", reader, { what: "Ties", amount: "1" })).status).toBe(403);
  });

  it("gives tables and drawing as files that name themselves", async () => {
    const csv = await get(`/jobs/${waitingJob}/connections.csv`, technician);
    expect(csv.headers.get("content-disposition")).toMatch(/attachment; filename="connections-\d+\.csv"/);
    const [head, first] = (await csv.text()).split("\r\n");
    expect(head).toBe("order,connection,from,to,family,ways,keying,contact,signal,label,colour,tracer");
    expect(first?.split(",")[0]).toBe("1");
    const pdf = await get(`/jobs/${waitingJob}/system.pdf?kind=teapot&layers=9`, technician);
    expect([pdf.status, pdf.headers.get("content-type")]).toEqual([200, "application/pdf"]);
  });
});

describe("the library over the wire", () => {
  it("sends a document tried and drawn: nothing is left to be computed before it is seen", async () => {
    const page = (slug: string) => async () => (await get(`/library/${slug}`, technician)).text();
    const drawn = /<svg[^>]* role="img" aria-label="(\d+) parts, (\d+) connections"/;
    // A server that has only begun may send the first ones without.
    for (const slug of ["kit/orvanto-om8", "variant/velmora-corrie-19-r2", "car/velmora-corrie-19"])
      await expect.poll(page(slug), { timeout: 10_000 }).toMatch(drawn);
    const kit = await page("kit/orvanto-om8")();
    expect(kit).toContain("Gained");
    expect(kit).not.toContain("The system is being drawn");
  });

  it("publishes the JSON Schema of the documents", async () => {
    const answer = await get("/library/schema.json", technician);
    expect(answer.headers.get("content-type")).toBe("application/schema+json");
    const schema = (await answer.json()) as { oneOf?: unknown[]; anyOf?: unknown[] };
    expect((schema.oneOf ?? schema.anyOf)?.length).toBe(5);
    const translation = await (await get("/library/translation.schema.json", technician)).json();
    expect(translation).toMatchObject({ $schema: "https://json-schema.org/draft/2020-12/schema", type: "object" });
  });

  it("gives the whole library as a zip and takes it back without making anything new", async () => {
    const lead = await signIn("lead@skerry.example");
    const zip = await (await get("/library/bundle.zip", lead)).arrayBuffer();
    const form = new FormData();
    form.set("file", new File([zip], "library.zip"));
    const answer = await post("/library.data", lead, form);
    expect([answer.status, await answer.text()]).toEqual([
      200,
      expect.stringContaining(`0 of ${shippedLibrary().length} profiles were new`),
    ]);
  });

  it("stores nothing that differs before somebody has seen it, and then only what was ticked", async () => {
    const lead = await signIn("lead@skerry.example");
    const [kit] = shippedLibrary().flatMap((p) => (p.document === "kit" && p.id === "ostrel-line-1" ? [p] : []));
    if (!kit) throw new Error("no kit");
    const send = async (fields: [string, string][]) => {
      const form = new FormData();
      form.set("file", new File([JSON.stringify({ ...kit, price: kit.price + 7 })], "kit.json"));
      for (const [name, value] of fields) form.append(name, value);
      const answer = await post("/library.data", lead, form);
      return [answer.status, await answer.text()] as const;
    };
    expect((await send([]))[1]).toContain("differs");
    const page = async () => (await get("/library/kit/ostrel-line-1", lead)).text();
    expect(await page()).not.toContain("?version=2");
    const stale = await send([
      ["take", "kit/ostrel-line-1"],
      ["seen", "kit/ostrel-line-1 7"],
    ]);
    expect(stale[0]).toBe(409);
    const taken = await send([
      ["take", "kit/ostrel-line-1"],
      ["seen", "kit/ostrel-line-1 1"],
    ]);
    expect(taken[1]).toContain("as version 2");
    expect(await page()).toContain("?version=2");
  });

  it("refuses a zip with a path in it, and imports by anybody but the lead", async () => {
    const bundle = (name: string) => {
      const form = new FormData();
      form.set("file", new File([zipSync({ [name]: strToU8("{}") })], "x.zip"));
      return form;
    };
    const answer = await post("/library.data", await signIn("lead@skerry.example"), bundle("../up.json"));
    expect([answer.status, await answer.text()]).toEqual([422, expect.stringContaining("holds a path")]);
    expect((await post("/library.data", technician, bundle("a.json"))).status).toBe(403);
  });

  it("keeps drafts of another shop out of reach", async () => {
    const id = newId();
    const lead = await signIn("lead@skerry.example");
    const made = await post("/library/kit/ostrel-line-1", lead, { what: "copy", draft: id });
    expect([made.status, made.headers.get("location")]).toEqual([302, `/library/drafts/${id}`]);
    expect((await get(`/library/drafts/${id}`, lead)).status).toBe(200);
    expect((await get(`/library/drafts/${id}`, await signIn("lead@mainland.example"))).status).toBe(404);
    expect((await get(`/library/drafts/${id}`, await signIn("reader@skerry.example"))).status).toBe(403);
    const stale = await post(`/library/drafts/${id}.data`, lead, {
      intent: "save",
      document: '{"title":"x"}',
      basedOn: "7",
    });
    expect([stale.status, await stale.text()]).toEqual([409, expect.stringContaining("Nothing was overwritten")]);
  });

  it("does not let scripts in titles run", async () => {
    const lead = await signIn("lead@skerry.example");
    const { kit } = demoDocuments();
    const form = new FormData();
    const title = "<script>alert(1)</script>";
    form.set("file", new File([JSON.stringify({ ...kit, id: "script-kit", title })], "k.json"));
    expect((await post("/library.data", lead, form)).status).toBe(200);
    const page = await (await get("/library/kit/script-kit", lead)).text();
    expect(page).not.toContain(title);
    expect(page).toContain("&lt;script&gt;");
  });
});

describe("the certificate", () => {
  it("is a PDF", async () => {
    const answer = await get(`/jobs/${middleJob}/certificate.pdf`, technician);
    expect(answer.headers.get("content-type")).toBe("application/pdf");
    const bytes = new Uint8Array(await answer.arrayBuffer());
    expect(new TextDecoder().decode(bytes.subarray(0, 5))).toBe("%PDF-");
  });
});

describe("a database that goes away", () => {
  it("gives the retry page with 503 and works again when it is back", async () => {
    await server.mariadb.stop();
    const away = await get("/board", technician);
    expect(away.status).toBe(503);
    const text = await away.text();
    expect(text).toContain("The database does not answer");
    expect(text).toContain("Try again");
    expect((await fetch(`${origin}/health`)).status).toBe(200);
    server.mariadb = await startMariadb("test-server", server.mariadb.port);
    for (let i = 0; i < 20 && (await get("/board", technician)).status !== 200; i++) await sleep(250);
    expect((await get("/board", technician)).status).toBe(200);
  });
});
