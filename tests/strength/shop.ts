/** A whole Iteron of its own, as `./iteron demo` runs it, with people who write and remember what was acknowledged. */
import { type ChildProcess, execFileSync, spawn } from "node:child_process";
import { appendFileSync, mkdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { endProcess, freePortFrom, sleep } from "../../cli/common.mjs";
import { environment } from "../../cli/mariadb.mjs";
import { newId } from "../../db/ids";
import { DEMO_PASSWORD } from "../../demo/people";
import { jobNamed, root } from "../integration/harness";

export interface RunningShop {
  origin: string;
  state: string;
  /** Processes as the command has written them down. */
  pids(): { pid: number; server: number; database: number; dbPort: number };
  /** Settings of its database, as its processes have them. */
  dbEnv(): Record<string, string>;
  stop(): Promise<void>;
  said(): string;
}

/** Starts the command with its data in a folder of its own. */
export async function startShop(
  state: string,
  ports: { web: number; db: number },
  more: Record<string, string> = {},
): Promise<RunningShop> {
  mkdirSync(state, { recursive: true });
  const [port, dbPort] = [await freePortFrom(ports.web), await freePortFrom(ports.db)];
  const env = {
    ...process.env,
    ITERON_STATE: state,
    ITERON_PORT: String(port),
    ITERON_DB_PORT: String(dbPort),
    ...more,
  };
  const child: ChildProcess = spawn(process.execPath, ["cli/main.mjs", "demo"], {
    cwd: root,
    env,
    stdio: ["ignore", "pipe", "pipe"],
  });
  let text = "";
  for (const stream of [child.stdout, child.stderr])
    stream?.on("data", (d) => {
      text += d;
    });
  const origin = `http://127.0.0.1:${port}`;
  if (!(await ready(origin, 180_000))) throw new Error(`Iteron did not start:\n${text}`);
  const pids = () => JSON.parse(readFileSync(join(state, "demo-lock.json"), "utf8"));
  return {
    origin,
    state,
    pids,
    dbEnv: () => environment(pids().dbPort, readFileSync(join(state, "demo", "secret"), "utf8").trim(), "iteron_demo"),
    stop: () => endProcess(child.pid ?? 0, "cli/main.mjs", 30_000),
    said: () => text,
  };
}

/** Waits until it works; returns after how many milliseconds, or 0 when it never did. */
export async function ready(origin: string, mostMs: number): Promise<number> {
  const begun = performance.now();
  while (performance.now() - begun < mostMs) {
    const answer = await fetch(`${origin}/ready`, { signal: AbortSignal.timeout(1000) }).catch(() => null);
    await answer?.body?.cancel();
    if (answer?.ok) return Math.max(1, performance.now() - begun);
    await sleep(25);
  }
  return 0;
}

/** Somebody who presses and sends photos, each until it is acknowledged, and remembers what was. */
export class Writer {
  /** Texts that were acknowledged. */
  readonly pressed: string[] = [];
  /** Photos that were acknowledged, with their bytes. */
  readonly photos = new Map<string, Uint8Array>();
  /** Answers that were neither taken nor a request to try again. */
  readonly odd: string[] = [];
  stopped = false;
  private running: Promise<void> | null = null;

  constructor(
    readonly name: string,
    private readonly origin: string,
    private readonly cookie: string,
    readonly job: string,
    private readonly photoEvery = 6,
  ) {}

  start(): void {
    this.running = this.run();
  }

  async stop(): Promise<void> {
    this.stopped = true;
    await this.running;
  }

  private async run() {
    for (let i = 0; !this.stopped; i++) {
      if (i % this.photoEvery === this.photoEvery - 1) await this.photo();
      else await this.press(`${this.name} ${i}`);
    }
  }

  /** The same press with the same identifier until it is taken. */
  async press(text: string): Promise<void> {
    const body = new URLSearchParams({
      entry: newId(),
      body: JSON.stringify({ kind: "handover.point", data: { text } }),
    });
    if (await this.untilTaken(`/jobs/${this.job}/log`, () => body)) this.pressed.push(text);
  }

  async photo(): Promise<void> {
    const id = newId();
    const bytes = Uint8Array.from({ length: 60_000 + Math.floor(Math.random() * 60_000) }, () =>
      Math.floor(Math.random() * 256),
    );
    bytes.set([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
    if (await this.untilTaken(`/jobs/${this.job}/photos?photo=${id}`, () => bytes)) this.photos.set(id, bytes);
  }

  private async untilTaken(path: string, body: () => URLSearchParams | Uint8Array): Promise<boolean> {
    for (;;) {
      const answer = await fetch(this.origin + path, {
        method: "POST",
        body: body() as BodyInit,
        headers: { cookie: this.cookie, origin: this.origin },
        redirect: "manual",
        signal: AbortSignal.timeout(15_000),
      }).catch(() => null);
      const status = answer?.status ?? 0;
      const text = (await answer?.text().catch(() => "")) ?? "";
      if (status === 200) return true;
      // 0: no connection. 503: the database is away. 507: no room. 409 of others at the same moment: once more.
      const asksAgain = [0, 503, 507].includes(status) || (status === 409 && text.includes("Press again."));
      if (!asksAgain) this.odd.push(`${status} ${text.slice(0, 120)}`);
      if (this.stopped) return false;
      await sleep(30 + Math.random() * 60);
    }
  }
}

/** Writers of a shop, on two jobs. */
export async function writersAt(origin: string, count: number, photoEvery?: number): Promise<Writer[]> {
  const emails = ["technician@skerry.example", "counter@skerry.example", "lead@skerry.example"];
  const writers: Writer[] = [];
  for (let w = 0; w < count; w++) {
    const cookie = await signedIn(origin, emails[w % emails.length] ?? "");
    const job = await jobNamed(origin, cookie, w % 2 ? "taxi" : "car 7");
    writers.push(new Writer(`Writer ${w}`, origin, cookie, job, photoEvery));
  }
  return writers;
}

export async function signedIn(origin: string, email: string): Promise<string> {
  const answer = await fetch(`${origin}/sign-in`, {
    method: "POST",
    body: new URLSearchParams({ email, password: DEMO_PASSWORD }),
    headers: { origin },
    redirect: "manual",
  });
  const cookie = /iteron_session=[^;]+/.exec(answer.headers.get("set-cookie") ?? "")?.[0];
  if (!cookie) throw new Error(`${email} could not sign in: ${answer.status} ${(await answer.text()).slice(0, 300)}`);
  return cookie;
}

/** What of the acknowledged is missing or there more than once. */
export async function missing(origin: string, writers: readonly Writer[]) {
  const cookie = await signedIn(origin, "technician@skerry.example");
  const found = { lost: 0, doubled: 0, photosLost: 0, presses: 0, photos: 0 };
  const texts = new Map<string, number>();
  for (const job of new Set(writers.map((w) => w.job))) {
    const file = await (await fetch(`${origin}/jobs/${job}/export.json`, { headers: { cookie } })).json();
    for (const { kind, data } of file.entries as { kind: string; data: { text?: string } }[])
      if (kind === "handover.point" && data.text) texts.set(data.text, (texts.get(data.text) ?? 0) + 1);
  }
  found.doubled = [...texts.values()].filter((n) => n > 1).length;
  for (const w of writers) {
    found.presses += w.pressed.length;
    found.lost += w.pressed.filter((t) => !texts.has(t)).length;
    for (const [id, bytes] of w.photos) {
      found.photos++;
      const answer = await fetch(`${origin}/jobs/${w.job}/photos/${id}`, { headers: { cookie } });
      const stored = new Uint8Array(await answer.arrayBuffer());
      if (answer.status !== 200 || Buffer.compare(stored, bytes) !== 0) found.photosLost++;
    }
  }
  return found;
}

/**
 * What the database's own check says of the tables that it does not find sound.
 *
 * @param env settings of the database
 */
export function unsoundTables(env: Record<string, string | undefined>): string[] {
  const to = ["-h127.0.0.1", `-P${env.ITERON_DB_PORT}`, `-u${env.ITERON_DB_USER}`, env.ITERON_DB_NAME ?? ""];
  const out = execFileSync("mariadb-check", ["--no-defaults", ...to], {
    encoding: "utf8",
    env: { ...process.env, MYSQL_PWD: env.ITERON_DB_PASSWORD },
  });
  const lines = out.trim().split("\n");
  if (lines.length < 15) throw new Error(`mariadb-check looked at ${lines.length} tables only:\n${out}`);
  return lines.filter((line) => !line.endsWith("OK"));
}

/** Adds a line to the table that `./iteron test strength` prints. */
export function report(trial: string, found: string): void {
  const folder = join(root, ".iteron", "reports");
  mkdirSync(folder, { recursive: true });
  appendFileSync(join(folder, "strength.txt"), `${trial.padEnd(34)} ${found}\n`);
}

export const median = (list: readonly number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
