/** What stands before every answer of the built server: names, origins, headers, and whether it is ready. */
import { request } from "node:http";
import { connect } from "node:net";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { endProcess, freePortFrom } from "../../cli/common.mjs";
import { serving, startServer } from "../../cli/serve.mjs";
import { MAX_ATTEMPTS } from "../../db/accounts";
import { DEMO_PASSWORD } from "../../demo/people";
import { type DemoServer, SERVER_MARK, startDemoServer } from "./harness";

let server: DemoServer;
let origin: string;
beforeAll(async () => {
  server = await startDemoServer("test-front", 23680, 5150);
  origin = server.origin;
});
afterAll(() => server.stop());

/** By the framework or by ourselves. */
const REFUSED = [400, 403];

describe("behind a proxy that was named", () => {
  let proxied: { pid: number };
  let address: string;
  beforeAll(async () => {
    const port = await freePortFrom(5180);
    const more = { ITERON_PROXY: "loopback", ITERON_HOSTS: "iteron.shop.example, other.example", ITERON_WORKERS: "1" };
    proxied = startServer({ ...server.env, ...more, PORT: String(port) });
    address = `http://127.0.0.1:${port}`;
    await serving(port);
  });
  afterAll(() => endProcess(proxied.pid, SERVER_MARK, 5000));
  /** What the proxy hands on of somebody's sign-in over TLS. */
  const signIn = (more: Record<string, string> = {}, password = DEMO_PASSWORD) =>
    fetch(`${address}/sign-in`, {
      method: "POST",
      body: new URLSearchParams({ email: "technician@skerry.example", password }),
      headers: {
        "x-forwarded-host": "iteron.shop.example",
        "x-forwarded-proto": "https",
        "x-forwarded-for": "192.0.2.1",
        origin: "https://iteron.shop.example",
        ...more,
      },
      redirect: "manual",
    });

  it("takes its word on name and protocol: the cookie travels over TLS only", async () => {
    const answer = await signIn();
    expect([answer.status, answer.headers.get("set-cookie")]).toEqual([302, expect.stringMatching(/; Secure/)]);
  });

  it("answers under the listed names and its own, and under no other", async () => {
    const other = await signIn({ "x-forwarded-host": "evil.example", origin: "https://evil.example" });
    expect([other.status, await other.text()]).toEqual([421, expect.stringContaining("ITERON_HOSTS")]);
    expect((await fetch(`${address}/sign-in`, { headers: { "x-forwarded-host": "other.example" } })).status).toBe(200);
  });

  it("counts tries by who is behind the proxy, and does not let him write that himself", async () => {
    for (let i = 0; i < MAX_ATTEMPTS.pair; i++) await signIn({ "x-forwarded-for": "198.51.100.9" }, "wrong");
    expect((await signIn({ "x-forwarded-for": "198.51.100.9" })).status).toBe(429);
    expect((await signIn({ "x-forwarded-for": "198.51.100.9", "x-iteron-caller": "192.0.2.1" })).status).toBe(429);
    expect((await signIn()).status).toBe(302);
  });
});

describe("names and origins", () => {
  /** A request with exactly these headers. */
  const raw = (path: string, headers: Record<string, string>, method = "GET") =>
    new Promise<{ status: number; text: string }>((resolve, reject) => {
      const { hostname, port } = new URL(origin);
      const sent = request({ hostname, port, path, method, headers, setHost: false }, (answer) => {
        let text = "";
        answer.on("data", (d) => {
          text += d;
        });
        answer.on("end", () => resolve({ status: answer.statusCode ?? 0, text }));
      });
      sent.on("error", reject);
      sent.end();
    });

  /** As a proxy's check asks that names no host. */
  const bare = (path: string) =>
    new Promise<string>((resolve, reject) => {
      const { hostname, port } = new URL(origin);
      let text = "";
      const socket = connect(Number(port), hostname, () => socket.write(`GET ${path} HTTP/1.0\r\n\r\n`));
      socket.on("data", (d) => {
        text += d;
      });
      socket.on("end", () => resolve(text));
      socket.on("error", reject);
    });

  it("are the listed ones; a check without a name is answered at /health and /ready", async () => {
    const { host } = new URL(origin);
    expect(await raw("/sign-in", { host })).toMatchObject({ status: 200 });
    expect(await raw("/sign-in", { host: "evil.example" })).toEqual({
      status: 421,
      text: expect.stringContaining("ITERON_HOSTS"),
    });
    expect(await raw("/sign-in", { host: "evil.example:80@127.0.0.1" })).toMatchObject({ status: 400 });
    for (const path of ["/health", "/ready"]) expect(await bare(path)).toMatch(/^HTTP\/1\.1 200 /);
    expect(await bare("/sign-in")).toMatch(/^HTTP\/1\.1 400 [\s\S]*needs a Host header/);
    expect(await raw("/health", { host: "10.0.0.9" })).toMatchObject({ status: 200, text: "ok" });
  });

  it("say on every answer that it is not to be guessed at or kept", async () => {
    for (const path of ["/health", "/ready", "/sign-in", "/board", "/board.data", "/nowhere", "/assets/none.js"]) {
      const { headers } = await fetch(origin + path, { redirect: "manual" });
      expect([path, headers.get("x-content-type-options")]).toEqual([path, "nosniff"]);
      expect([path, headers.get("cache-control")]).toEqual([path, "no-store"]);
    }
    const page = await (await fetch(`${origin}/sign-in`)).text();
    const asset = /\/assets\/[^"]+\.js/.exec(page)?.[0] ?? "";
    expect((await fetch(origin + asset)).headers.get("cache-control")).toContain("immutable");
  });

  it("does not believe a forwarded host where no proxy is configured", async () => {
    const { host } = new URL(origin);
    const forged = { host, "x-forwarded-host": "evil.example", origin: "http://evil.example", "content-length": "0" };
    expect((await raw("/sign-in", forged, "POST")).status).toBeOneOf(REFUSED);
    for (const bad of ["null", "not an address", "http://", "%"])
      expect((await raw("/sign-in", { host, origin: bad, "content-length": "0" }, "POST")).status).toBeOneOf(REFUSED);
  });

  it("tells by /ready whether the database answers, by /health whether the server runs", async () => {
    expect(await raw("/ready", { host: new URL(origin).host })).toMatchObject({ status: 200, text: "ready" });
    await server.mariadb.stop();
    const away = await fetch(`${origin}/ready`);
    expect([away.status, away.headers.get("retry-after")]).toEqual([503, "3"]);
    expect((await fetch(`${origin}/health`)).status).toBe(200);
  });
});
