/**
 * Pages of a job under 20 parallel clients on loopback, for a bounded number of requests: processor time of the server
 * for each, against a bare page of the same framework with the same number of bytes in the same run.
 */
import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { connectionFromEnvironment } from "../../db/database";
import { newId } from "../../db/ids";
import { DEMO_PASSWORD } from "../../demo/people";
import { SURFACES } from "../support/surfaces";
import { report } from "./report";

const CLIENTS = 20;
/** Of each page, in as many turns with the bare one, because a machine changes its speed while it measures. */
const REQUESTS = 600;
const TURNS = 12;
/** Until the code of a page is compiled in every process, as that of the bare page is long before the last page. */
const WARM_UP = 1000;
const TICKS_PER_SECOND = 100;
/** The drawing of the whole system and the bus page are laid out on the device. */
const PAGES = SURFACES.filter((s) => s !== "connect/system" && s !== "bus");
const origin = process.env.ITERON_URL ?? "";
const server = Number(process.env.ITERON_SERVER_PID);

/** What requests cost, over several turns. */
class Cost {
  private ticks = 0;
  private seconds = 0;
  private readonly times: number[] = [];

  async add(path: string): Promise<void> {
    const [from, begun] = [cpuTicks(), performance.now()];
    this.times.push(...(await load(path, REQUESTS / TURNS)));
    this.ticks += cpuTicks() - from;
    this.seconds += (performance.now() - begun) / 1000;
  }

  /** Of processor, a request. */
  get ms(): number {
    return (this.ticks * 1000) / TICKS_PER_SECOND / this.times.length;
  }

  get perSecond(): number {
    return this.times.length / this.seconds;
  }

  /** 95th percentile of the answers, in milliseconds. */
  get p95(): number {
    return [...this.times].sort((a, b) => a - b)[Math.floor(0.95 * this.times.length)] ?? 0;
  }
}

const signedIn = await fetch(`${origin}/sign-in`, {
  method: "POST",
  body: new URLSearchParams({ email: "technician@skerry.example", password: DEMO_PASSWORD }),
  headers: { origin },
  redirect: "manual",
});
const cookie = /iteron_session=[^;]+/.exec(signedIn.headers.get("set-cookie") ?? "")?.[0] ?? "";
const board = await (await fetch(`${origin}/board`, { headers: { cookie } })).text();
const jobs = [...board.matchAll(/href="(\/jobs\/[0-9a-f-]{36})"[\s\S]*?font-medium">([^<]+)</g)];
const job = jobs.find((m) => m[2]?.includes("car 7"))?.[1];
if (!job) throw new Error("the board shows no job");

/** Bytes of a bare page without its text. */
const bareFrame = (await (await fetch(`${origin}/bare/0`, { headers: { cookie } })).arrayBuffer()).byteLength;

await measure("/board", "board", 1.5);
for (const page of PAGES) await measure(`${job}/${page}`, page, 2.5);
await writes();

/** Processor time of a page and of a bare one of its size, one after the other. */
async function measure(path: string, name: string, aim: number): Promise<void> {
  const bytes = (await (await fetch(origin + path, { headers: { cookie } })).arrayBuffer()).byteLength;
  const bare = `/bare/${Math.max(0, bytes - bareFrame)}`;
  await load(path, WARM_UP);
  await load(bare, WARM_UP);
  const own = new Cost();
  const peer = new Cost();
  for (let turn = 0; turn < TURNS; turn++) {
    await own.add(path);
    await peer.add(bare);
  }
  report({
    case: `${name}, ${(bytes / 1024).toFixed(0)} kB`,
    value: own.ms,
    unit: "ms of processor a request",
    peer: "bare page of the same framework and size",
    peerValue: peer.ms,
    ratio: own.ms / peer.ms,
    note: `aim: at most ${aim}; ${own.perSecond.toFixed(0)} requests/s, 95th percentile ${own.p95.toFixed(0)} ms`,
  });
}

async function load(path: string, requests: number): Promise<number[]> {
  const times: number[] = [];
  let left = requests;
  const client = async () => {
    while (left-- > 0) {
      const begun = performance.now();
      const answer = await fetch(origin + path, { headers: { cookie } });
      await answer.arrayBuffer();
      if (answer.status !== 200) throw new Error(`${path}: status ${answer.status}`);
      times.push(performance.now() - begun);
    }
  };
  await Promise.all(Array.from({ length: CLIENTS }, client));
  return times;
}

/** Processor time of all processes of the server, user and system. */
function cpuTicks(): number {
  const pids = execFileSync("ps", ["--no-headers", "-o", "pid", "--ppid", String(server)], { encoding: "utf8" })
    .trim()
    .split(/\s+/);
  return pids.reduce((sum, pid) => {
    const fields = readFileSync(`/proc/${pid}/stat`, "utf8").split(") ")[1]?.split(" ") ?? [];
    return sum + Number(fields[11]) + Number(fields[12]);
  }, 0);
}

/** SQL statements of one press, and how long a press takes alone. */
async function writes(): Promise<void> {
  const { default: mysql } = await import("mysql2/promise");
  const connection = await mysql.createConnection(connectionFromEnvironment(process.env));
  const statements = async () => {
    const [rows] = await connection.query(
      "SHOW GLOBAL STATUS WHERE variable_name IN ('Com_stmt_execute', 'Com_begin', 'Com_commit')",
    );
    return (rows as { Value: string }[]).reduce((n, r) => n + Number(r.Value), 0);
  };
  const press = async (i: number) => {
    const body = JSON.stringify({ kind: "handover.point", data: { text: `Point ${i}` } });
    const answer = await fetch(`${origin}${job}/log`, {
      method: "POST",
      body: new URLSearchParams({ entry: newId(), body }),
      headers: { cookie, origin },
    });
    if (answer.status !== 200) throw new Error(`press: status ${answer.status}`);
  };
  for (let i = 0; i < 10; i++) await press(i);
  const PRESSES = 40;
  const from = await statements();
  const begun = performance.now();
  for (let i = 0; i < PRESSES; i++) await press(100 + i);
  const ms = (performance.now() - begun) / PRESSES;
  report({
    case: "SQL statements of a press, transaction included",
    value: ((await statements()) - from) / PRESSES,
    unit: "statements",
    note: `aim: at most 8; ${ms.toFixed(0)} ms a press`,
  });
  await connection.end();
}
