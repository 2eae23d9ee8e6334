/** Clients that send slowly, half or too much: they are let go of, and nobody else waits for them. */
import { connect } from "node:net";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { sleep } from "../../cli/common.mjs";
import { type DemoServer, startDemoServer } from "../integration/harness";
import { median, report, unsoundTables } from "./shop";

const HALF_SENT = 40;
const FLOOD_BYTES = 250_000_000;
let server: DemoServer;
let origin: string;
let cookie: string;

beforeAll(async () => {
  server = await startDemoServer("test-slow", 23690, 5160);
  origin = server.origin;
  cookie = await server.signIn("technician@skerry.example");
});
afterAll(() => server.stop());

/** Sends text and nothing more; resolves with the seconds after which the server hung up, and what it said. */
function halfSent(text: string) {
  const { hostname, port } = new URL(origin);
  const begun = performance.now();
  return new Promise<{ seconds: number; said: string }>((resolve) => {
    let said = "";
    const socket = connect(Number(port), hostname, () => socket.write(text));
    socket.on("data", (d) => {
      said += d;
    });
    socket.on("error", () => undefined);
    socket.on("close", () => resolve({ seconds: (performance.now() - begun) / 1000, said }));
  });
}

async function boardMs(times: number): Promise<number[]> {
  const list: number[] = [];
  for (let i = 0; i < times; i++) {
    const begun = performance.now();
    const answer = await fetch(`${origin}/board`, { headers: { cookie } });
    await answer.text();
    expect(answer.status).toBe(200);
    list.push(performance.now() - begun);
    await sleep(20);
  }
  return list;
}

describe("half-sent requests", () => {
  it("are given up, and pages come meanwhile as ever", async () => {
    const { host } = new URL(origin);
    const heads = Array.from({ length: HALF_SENT }, () => halfSent(`GET /board HTTP/1.1\r\nHost: ${host}\r\nX-Slow: `));
    const bodies = Array.from({ length: HALF_SENT }, () =>
      halfSent(
        `POST /sign-in HTTP/1.1\r\nHost: ${host}\r\nOrigin: ${origin}\r\nContent-Type: application/x-www-form-urlencoded\r\nContent-Length: 5000\r\n\r\nemail=`,
      ),
    );
    const meanwhile = median(await boardMs(30));
    const ends = await Promise.all([...heads, ...bodies]);
    const longest = Math.max(...ends.map((e) => e.seconds));
    report(
      "half-sent requests",
      `${ends.length} let go of after ${longest.toFixed(0)} s at most; the board meanwhile ${meanwhile.toFixed(0)} ms median`,
    );
    expect(longest).toBeLessThan(60);
    for (const { said } of ends.slice(0, HALF_SENT)) expect(said).toMatch(/^HTTP\/1\.1 408 |^$/);
  });
});

describe("one client with 250 MB", () => {
  it("slows others by less than 100 ms", async () => {
    const quiet = await boardMs(60);
    const piece = new Uint8Array(256 * 1024).fill(97);
    let sent = 0;
    const body = new ReadableStream<Uint8Array>({
      pull(to) {
        sent += piece.length;
        if (sent > FLOOD_BYTES) to.close();
        else to.enqueue(piece);
      },
    });
    const flood = fetch(`${origin}/jobs/import.data`, {
      method: "POST",
      body,
      duplex: "half",
      headers: { cookie, origin, "Content-Type": "multipart/form-data; boundary=x" },
    } as RequestInit)
      .then((a) => a.status)
      .catch(() => 0);
    const busy = await boardMs(60);
    const status = await flood;
    const slower = median(busy) - median(quiet);
    report(
      "one client with 250 MB",
      `answered ${status || "by hanging up"}; the board is slower by ${slower.toFixed(0)} ms at the median (${median(quiet).toFixed(0)} to ${median(busy).toFixed(0)} ms)`,
    );
    expect([0, 413]).toContain(status);
    expect(slower).toBeLessThan(100);
    expect(unsoundTables(server.env)).toEqual([]);
  });
});
