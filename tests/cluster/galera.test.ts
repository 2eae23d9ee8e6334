/** Three database nodes, two servers and a proxy on this machine: one after the other is killed while people work. */
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { sleep } from "../../cli/common.mjs";
import { startCluster } from "../../cli/galera.mjs";
import { connectionFromEnvironment } from "../../db/database";
import { newId } from "../../db/ids";
import { migrate, migrationsIn } from "../../db/migrate";
import { jobNamed, root } from "../integration/harness";
import { median, missing, ready, report, signedIn, unsoundTables, writersAt } from "../strength/shop";

/** In each, every node and as many servers are killed. */
const ROUNDS = process.env.ITERON_LONG ? 4 : 2;
const folder = mkdtempSync(join(tmpdir(), "iteron-cluster-"));
let cluster: Awaited<ReturnType<typeof startCluster>>;

beforeAll(async () => {
  cluster = await startCluster(join(folder, "cluster"));
});
afterAll(async () => {
  await cluster?.stop();
  rmSync(folder, { recursive: true, force: true });
});

/** The port of a node's database. */
async function portOf(n: number): Promise<number> {
  const node = await cluster.connect(n);
  const { port } = node.config;
  await node.end();
  return port ?? 0;
}

/** Presses and asks at once, whoever answers; counts how often it was not there. */
async function readsOwnWrites(until: { stopped: boolean }) {
  const { origin } = cluster;
  const cookie = await signedIn(origin, "technician@skerry.example");
  const job = await jobNamed(origin, cookie, "Ferry");
  const seen = { asked: 0, stale: 0 };
  for (let i = 0; !until.stopped; i++) {
    const text = `own ${i}`;
    const body = new URLSearchParams({
      entry: newId(),
      body: JSON.stringify({ kind: "handover.point", data: { text } }),
    });
    const signal = AbortSignal.timeout(15_000);
    const taken = await fetch(`${origin}/jobs/${job}/log`, {
      method: "POST",
      body,
      headers: { cookie, origin },
      signal,
    }).catch(() => null);
    await taken?.text().catch(() => "");
    if (taken?.status !== 200) continue;
    const read = await fetch(`${origin}/jobs/${job}/export.json`, { headers: { cookie } }).catch(() => null);
    // What breaks off with a killed server is no answer.
    const file = read?.status === 200 ? await read.text().catch(() => null) : null;
    if (file === null) continue;
    seen.asked++;
    if (!file.includes(`"${text}"`)) seen.stale++;
  }
  return seen;
}

describe("several machines", () => {
  it("are one cluster, and each node holds the same", async () => {
    for (const n of cluster.nodes)
      expect(await cluster.status(n)).toMatchObject({ wsrep_cluster_size: "3", wsrep_cluster_status: "Primary" });
  });

  it("migrate once when three servers start at once on three nodes", async () => {
    const migrations = join(root, "db", "migrations");
    const sql = await cluster.connect(1);
    await sql.query("CREATE DATABASE iteron_migrated CHARACTER SET utf8mb4");
    await sql.end();
    await sleep(300);
    const ports = await Promise.all(cluster.nodes.map(portOf));
    const options = connectionFromEnvironment(cluster.env);
    const done = await Promise.all(
      ports.map((port) => migrate({ ...options, port, database: "iteron_migrated" }, migrations)),
    );
    expect(done.map((d) => d.length).sort((a, b) => a - b)).toEqual([0, 0, (await migrationsIn(migrations)).length]);
  });

  it("give back a backup made in the browser, whichever server is asked for the page", async () => {
    const { origin } = cluster;
    const cookie = await signedIn(origin, "lead@skerry.example");
    const made = await fetch(`${origin}/backup/make`, { method: "POST", headers: { cookie, origin } });
    const [, name, bytes] = /"name":"(iteron-[^"]+)","bytes":(\d+)/.exec(await made.text()) ?? [];
    expect(Number(bytes)).toBeGreaterThan(100_000);
    for (let i = 0; i < 6; i++) {
      const kept = await fetch(`${origin}/backup/${name}`, { headers: { cookie } });
      expect(kept.status).toBe(200);
      expect(kept.headers.get("content-length")).toBe(bytes);
      expect((await kept.arrayBuffer()).byteLength).toBe(Number(bytes));
    }
  });

  it("lose nothing acknowledged while a node and a server are killed in turn, and a reader sees his own writes", async () => {
    const { origin } = cluster;
    const writers = await writersAt(origin, 3);
    const until = { stopped: false };
    for (const w of writers) w.start();
    const reader = readsOwnWrites(until);
    const times: number[] = [];
    for (let round = 0; round < ROUNDS; round++) {
      for (const n of cluster.nodes) {
        await sleep(1500);
        await cluster.killNode(n);
        times.push(await takesPress(origin));
        await cluster.startNode(n);
        const s = cluster.servers[n % cluster.servers.length] ?? 1;
        await cluster.killServer(s);
        times.push(await takesPress(origin));
        cluster.startServer(s);
        await sleep(2500);
      }
    }
    until.stopped = true;
    const own = await reader;
    for (const w of writers) await w.stop();
    const found = await missing(origin, writers);
    const odd = writers.flatMap((w) => w.odd);
    report(
      `cluster, ${times.length} kills`,
      `${found.presses} presses and ${found.photos} photos acknowledged: ${found.lost} and ${found.photosLost} lost, ${found.doubled} doubled; of ${own.asked} own writes ${own.stale} not seen; a press is taken again after ${(median(times) / 1000).toFixed(2)} s median, ${(Math.max(...times) / 1000).toFixed(2)} s at most; other answers ${odd.length}`,
    );
    expect(found.presses).toBeGreaterThan(50);
    expect(found).toMatchObject({ lost: 0, photosLost: 0, doubled: 0 });
    expect(own.asked).toBeGreaterThan(10);
    expect(own.stale).toBe(0);
    expect(odd).toEqual([]);
    for (const n of cluster.nodes) {
      expect(await cluster.status(n)).toMatchObject({ wsrep_cluster_size: "3" });
      expect(unsoundTables({ ...cluster.env, ITERON_DB_PORT: String(await portOf(n)) })).toEqual([]);
    }
  });

  it("say in words that two of three are gone, and go on when they are back", async () => {
    const { origin } = cluster;
    const cookie = await signedIn(origin, "technician@skerry.example");
    const job = await jobNamed(origin, cookie, "Ferry");
    await cluster.killNode(2);
    await cluster.killNode(3);
    const statuses = new Set<number>();
    for (let i = 0; i < 6; i++) {
      const body = new URLSearchParams({
        entry: newId(),
        body: JSON.stringify({ kind: "handover.point", data: { text: `lonely ${i}` } }),
      });
      const answer = await fetch(`${origin}/jobs/${job}/log`, {
        method: "POST",
        body,
        headers: { cookie, origin },
        signal: AbortSignal.timeout(30_000),
      });
      statuses.add(answer.status);
      if (answer.status === 503)
        expect(await answer.text()).toMatch(/does not answer|went away|Service Unavailable|No server is available/);
      await sleep(300);
    }
    // By our own words, or by the proxy when it has seen that no server is ready.
    expect([...statuses].filter((s) => s !== 503)).toEqual([]);
    // One alone is no majority: each waits for the other.
    await Promise.all([cluster.startNode(2), cluster.startNode(3)]);
    expect(await ready(origin, 60_000)).toBeGreaterThan(0);
    for (const n of cluster.nodes) expect(await cluster.status(n)).toMatchObject({ wsrep_cluster_size: "3" });
  });
});

let cookieAt = "";
/** Presses until one is taken; returns after how many milliseconds. */
async function takesPress(origin: string): Promise<number> {
  const begun = performance.now();
  while (performance.now() - begun < 30_000) {
    const signal = AbortSignal.timeout(10_000);
    const taken = await (async () => {
      cookieAt ||= await signedIn(origin, "counter@skerry.example");
      const job = await jobNamed(origin, cookieAt, "Ferry");
      const body = new URLSearchParams({
        entry: newId(),
        body: JSON.stringify({ kind: "handover.point", data: { text: newId() } }),
      });
      const answer = await fetch(`${origin}/jobs/${job}/log`, {
        method: "POST",
        body,
        headers: { cookie: cookieAt, origin },
        signal,
      });
      await answer.text();
      return answer.status === 200;
    })().catch(() => false);
    if (taken) return performance.now() - begun;
    await sleep(50);
  }
  throw new Error("No press was taken for half a minute.");
}
