/** The processes of one server: a killed one comes back, events reach all of them, and stopping is quick. */
import { execFileSync } from "node:child_process";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { endProcess, isOurs, sleep } from "../../cli/common.mjs";
import { newId } from "../../db/ids";
import { type DemoServer, jobNamed, SERVER_MARK, startDemoServer } from "./harness";

let server: DemoServer;
let origin: string;
let cookie: string;
let job: string;

beforeAll(async () => {
  server = await startDemoServer("test-cluster", 23660, 5130, { ITERON_WORKERS: "2" });
  origin = server.origin;
  cookie = await server.signIn("technician@skerry.example");
  job = await jobNamed(origin, cookie, "taxi");
});
afterAll(() => server.stop());

const post = (path: string, body: Record<string, string>) =>
  fetch(origin + path, {
    method: "POST",
    body: new URLSearchParams(body),
    headers: { origin, cookie },
    redirect: "manual",
  });
const point = (text: string) =>
  post(`/jobs/${job}/log`, {
    entry: newId(),
    body: JSON.stringify({ kind: "handover.point", data: { text } }),
  });
/** Processes of the server beside the first. */
const workers = () =>
  execFileSync("ps", ["--no-headers", "-o", "pid", "--ppid", String(server.pid)], { encoding: "utf8" })
    .trim()
    .split(/\s+/)
    .map(Number);

/** Opens the events of the job and collects the versions they tell, each with its time. */
function listen() {
  const abort = new AbortController();
  const told: { version: number; at: number }[] = [];
  const ended = fetch(`${origin}/jobs/${job}/events`, { headers: { cookie }, signal: abort.signal })
    .then(async (answer) => {
      const text = new TextDecoder();
      for await (const piece of answer.body as unknown as AsyncIterable<Uint8Array>)
        for (const [, version] of text.decode(piece).matchAll(/data: (\d+)/g))
          told.push({ version: Number(version), at: Date.now() });
    })
    .catch(() => undefined);
  return { told, stop: () => abort.abort(), ended };
}

describe("events of a job", () => {
  it("tell every open page the version now and each new one within two seconds, whatever process it is at", async () => {
    const pages = Array.from({ length: 6 }, listen);
    for (let i = 0; i < 40 && pages.some((p) => p.told.length === 0); i++) await sleep(50);
    const before = pages.map((p) => p.told.at(-1)?.version ?? -1);
    expect(new Set(before).size).toBe(1);
    const pressed = Date.now();
    expect((await point("heard by all")).status).toBe(200);
    for (let i = 0; i < 60 && pages.some((p) => p.told.length < 2); i++) await sleep(50);
    expect(pages.map((p) => p.told.at(-1)?.version)).toEqual(before.map((v) => v + 1));
    for (const p of pages) expect((p.told.at(-1)?.at ?? 0) - pressed).toBeLessThan(2500);
    for (const p of pages) p.stop();
  });

  it("cost one query a second for each process, however many pages are open", async () => {
    const pages = Array.from({ length: 30 }, listen);
    for (let i = 0; i < 60 && pages.some((p) => p.told.length === 0); i++) await sleep(50);
    const from = await statements();
    await sleep(4000);
    const selects = (await statements()) - from;
    for (const p of pages) p.stop();
    // Two processes, four seconds, one more at either end.
    expect(selects).toBeLessThanOrEqual(2 * 6);
    expect(selects).toBeGreaterThanOrEqual(2);
  });

  it("are for people of the shop only", async () => {
    const answer = await fetch(`${origin}/jobs/${job}/events`, { redirect: "manual" });
    expect(answer.status).toBe(302);
  });
});

describe("the processes of a server", () => {
  it("are as many as asked for, and a killed one is started again while the others serve", async () => {
    expect(workers()).toHaveLength(2);
    const [victim = 0] = workers();
    expect(isOurs(victim, "worker.mjs")).toBe(true);
    process.kill(victim, "SIGKILL");
    const answers: number[] = [];
    for (let i = 0; i < 20; i++) {
      // What had just been handed to the killed process gets no answer; a browser would ask again.
      const signal = AbortSignal.timeout(1000);
      answers.push((await fetch(`${origin}/health`, { signal }).catch(() => ({ status: 0 }))).status);
      await sleep(50);
    }
    expect(answers.filter((s) => s === 200).length).toBeGreaterThanOrEqual(17);
    for (let i = 0; i < 60 && workers().length < 2; i++) await sleep(50);
    expect(workers()).toHaveLength(2);
    expect(workers()).not.toContain(victim);
  });

  it("do not let a huge body without a session hold up others", async () => {
    const chunk = new Uint8Array(64 * 1024).fill(97);
    let sent = 0;
    const body = new ReadableStream<Uint8Array>({
      pull(controller) {
        sent += chunk.length;
        if (sent > 100_000_000) controller.close();
        else controller.enqueue(chunk);
      },
    });
    const flood = fetch(`${origin}/sign-in`, {
      method: "POST",
      body,
      duplex: "half",
      headers: { origin, "Content-Type": "application/x-www-form-urlencoded" },
      redirect: "manual",
    } as RequestInit).catch(() => null);
    const times: number[] = [];
    for (let i = 0; i < 10; i++) {
      const begun = performance.now();
      // A connection that was kept open may be closed by its server at this very moment.
      await fetch(`${origin}/health`, { headers: { connection: "close" } });
      times.push(performance.now() - begun);
    }
    const answer = await flood;
    if (answer) expect(answer.status).toBe(413);
    expect(Math.max(...times)).toBeLessThan(1000);
  });

  it("stop within three seconds, open events or not", async () => {
    const page = listen();
    for (let i = 0; i < 40 && page.told.length === 0; i++) await sleep(50);
    const begun = Date.now();
    await endProcess(server.pid, SERVER_MARK, 3000);
    expect(Date.now() - begun).toBeLessThan(3000);
    await page.ended;
    await expect(fetch(`${origin}/health`)).rejects.toThrow();
  });
});

/** Prepared statements that the database has executed so far. */
async function statements(): Promise<number> {
  const { default: mysql } = await import("mysql2/promise");
  const { env } = server;
  const connection = await mysql.createConnection({
    host: env.ITERON_DB_HOST,
    port: Number(env.ITERON_DB_PORT),
    user: env.ITERON_DB_USER,
    password: env.ITERON_DB_PASSWORD,
  });
  const [rows] = await connection.query("SHOW GLOBAL STATUS LIKE 'Com_stmt_execute'");
  await connection.end();
  return Number((rows as { Value: string }[])[0]?.Value ?? 0);
}
