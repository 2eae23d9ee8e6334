/** `./iteron start`: no demonstration; the first visit asks for the shop and its lead. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { endProcess, freePortFrom } from "../../cli/common.mjs";
import { serving, startServer } from "../../cli/serve.mjs";
import { makeSetupKey } from "../../db/accounts";
import { DEMO_ACCOUNTS, DEMO_PASSWORD } from "../../demo/people";
import { freshDatabase } from "./harness";

let origin: string;
let server: { pid: number };
let key: string | null;
let close: () => Promise<void>;

beforeAll(async () => {
  const { db, env } = await freshDatabase("first_run");
  close = () => db.close();
  key = await makeSetupKey(db);
  const port = await freePortFrom(5120);
  origin = `http://127.0.0.1:${port}`;
  server = startServer({ ...env, ITERON_DEMO: "", NODE_ENV: "production", HOST: "127.0.0.1", PORT: String(port) });
  await serving(port);
});
afterAll(async () => {
  await endProcess(server.pid, "build/server/index.js");
  await close();
});

const get = (path: string, cookie = "") => fetch(origin + path, { headers: { cookie }, redirect: "manual" });
const post = (path: string, body: Record<string, string>) =>
  fetch(origin + path, { method: "POST", body: new URLSearchParams(body), headers: { origin }, redirect: "manual" });
const lead = { shop: "Our shop", name: "Lead", email: "lead@our.example", password: "long enough 1" };

describe("the first run", () => {
  it("leads from the start page to the set-up page", async () => {
    expect((await get("/")).headers.get("location")).toBe("/board");
    expect((await get("/board")).headers.get("location")).toBe("/sign-in?to=%2Fboard");
    expect((await get("/sign-in")).headers.get("location")).toBe("/setup");
    expect((await get("/setup")).status).toBe(200);
  });

  it("refuses a weak password and a missing name, and creates nothing", async () => {
    const refused = await post("/setup", { ...lead, key: key ?? "", shop: "", password: "short" });
    expect(refused.status).toBe(400);
    const text = await refused.text();
    expect(text).toContain("At least ten characters.");
    expect(text).toContain("Name the shop.");
    expect((await get("/setup")).status).toBe(200);
  });

  it("is for whoever has the key that was printed last", async () => {
    const without = await post("/setup", lead);
    expect([without.status, await without.text()]).toEqual([400, expect.stringContaining("Enter the key")]);
    const wrong = await post("/setup", { ...lead, key: "guessed" });
    expect([wrong.status, await wrong.text()]).toEqual([403, expect.stringContaining("not the key that was printed")]);
    expect(await (await get(`/setup?key=${key}`)).text()).toContain(`value="${key}"`);
  });

  it("creates shop, lead and library once, also when two press at once, and signs the lead in", async () => {
    const two = await Promise.all(
      [1, 2].map((n) => post("/setup", { ...lead, key: key ?? "", email: n === 1 ? lead.email : "other@our.example" })),
    );
    const created = two.find((a) => a.status === 302 && a.headers.has("set-cookie")) ?? new Response();
    expect(two.filter((a) => a.headers.has("set-cookie"))).toHaveLength(1);
    lead.email = created === two[0] ? lead.email : "other@our.example";
    expect([created.status, created.headers.get("location")]).toEqual([302, "/board"]);
    const cookie = /iteron_session=[^;]+/.exec(created.headers.get("set-cookie") ?? "")?.[0] ?? "";
    const board = await (await get("/board", cookie)).text();
    expect(board).toContain("Our shop");
    expect(board).toContain("No car in the shop");
    expect(await (await get("/library", cookie)).text()).toContain("Orvanto OM-8 mirroring kit");
    expect((await get("/setup")).headers.get("location")).toBe("/sign-in");
    expect(
      (await post("/setup", { ...lead, key: key ?? "", email: "second@our.example" })).headers.get("location"),
    ).toBe("/sign-in");
  });

  it("marks the session cookie as out of reach for scripts and other sites", async () => {
    const signedIn = await post("/sign-in", { email: lead.email, password: lead.password });
    expect(signedIn.headers.get("set-cookie")).toMatch(/HttpOnly; SameSite=Lax/);
  });

  it("leads back only to its own pages after signing in", async () => {
    const inside = await post("/sign-in?to=%2Flibrary", { email: lead.email, password: lead.password });
    expect(inside.headers.get("location")).toBe("/library");
    const outside = await post("/sign-in?to=%2F%2Fevil.example", { email: lead.email, password: lead.password });
    expect(outside.headers.get("location")).toBe("/board");
  });

  it("knows no demonstration account and shows none", async () => {
    expect(await (await get("/sign-in")).text()).not.toContain("Demonstration");
    for (const { email } of DEMO_ACCOUNTS)
      expect((await post("/sign-in", { email, password: DEMO_PASSWORD })).status).toBe(401);
  });
});
