import { spawn } from "node:child_process";
import {
  appendFileSync,
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { join } from "node:path";
import { endProcess, isOurs, paths, portFree, root, run, say, sleep, Trouble } from "./common.mjs";
import { rotating } from "./logs.mjs";
import { startMariadb } from "./mariadb.mjs";
import { freeBytes, SCARCE_BYTES } from "./room.mjs";
import { supervised } from "./supervise.mjs";

const PORT = Number(process.env.ITERON_PORT ?? 4870);
/** Ports stay below those that the system gives to outgoing connections (from 32768 on Linux), which it may take at any time. */
export const DB_PORT = Number(process.env.ITERON_DB_PORT ?? 23470);
/** The database of `start`; `demo` has its own. */
export const DATABASE = process.env.ITERON_DATABASE ?? "iteron";
const SERVER_LOG = join(paths.state, "server.log");
export const CLI_MARK = "cli/main.mjs";
const SERVER_MARK = "build/server/index.js";
/** The server ends what is under way within two seconds by itself. */
const SERVER_PATIENCE_MS = 2500;

export async function start() {
  await serve({ database: DATABASE, demo: false });
}

export async function demo({ reset = false } = {}) {
  await serve({ database: "iteron_demo", demo: true, reset });
}

/** Asks the running Iteron of this checkout to end and waits for it. */
export async function stop() {
  const lock = readLock();
  if (!lock || !isOurs(lock.pid, CLI_MARK)) {
    if (lock) await clearLeftovers(lock);
    say(lock ? "Nothing was running; leftovers of a crash were cleared." : "Nothing is running.");
    return;
  }
  process.kill(lock.pid, "SIGTERM");
  for (let waited = 0; isOurs(lock.pid, CLI_MARK) && waited < 60_000; waited += 100) await sleep(100);
  say("Stopped.");
}

async function serve({ database, demo: demoMode, reset }) {
  await takeLock();
  const stopping = [];
  let ending = false;
  let gaveUp = false;
  const end = async (code) => {
    if (ending) return;
    ending = true;
    for (const step of stopping.reverse()) await step().catch((e) => console.error(e.message));
    rmSync(paths.lock, { force: true });
    process.exit(code);
  };
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, () => void end(gaveUp ? 1 : 0));
  try {
    if (!(await portFree(PORT)))
      throw new Trouble(
        `Port ${PORT} is taken by another program. Choose another one: ITERON_PORT=${PORT + 1} ./iteron ${demoMode ? "demo" : "start"}`,
      );
    const giveUp = (message) => {
      gaveUp = true;
      note("fatal", `${message} See the logs in ${paths.state}; everything is stopped.`);
      void end(1);
    };
    const tell = (message) => note("warn", message);
    const keep = (name, start) => supervised(name, start, { stopping, giveUp, tell, passing: noRoom });
    stopping.push(rotating(SERVER_LOG, join(paths.state, "main", "mariadb.log")));
    const db = await keep("The database", async () => {
      const started = await startMariadb("main", DB_PORT);
      writeLock({ database: started.pid, databaseMark: started.mark, dbPort: started.port, serves: database });
      return { child: started.child, stop: started.stop, started };
    });
    const env = {
      ...db.env(database),
      ITERON_DEMO: demoMode ? "1" : "",
      NODE_ENV: "production",
      ITERON_DATA: paths.state,
      HOST: "127.0.0.1",
      PORT: String(PORT),
    };
    const { output } = await run(
      process.execPath,
      ["--import", "tsx", "cli/prepare.ts", ...(demoMode ? ["--demo"] : []), ...(reset ? ["--reset"] : [])],
      { env },
    );
    await keep("The server", async () => {
      const child = startServer(env);
      writeLock({ server: child.pid });
      return { child, stop: () => endProcess(child.pid, SERVER_MARK, SERVER_PATIENCE_MS), started: child };
    });
    await serving(PORT);
    if (process.env.ITERON_BACKUPS) {
      // It needs a package, and this file is read before any is installed.
      const { nightly } = await import("./nightly.mjs");
      stopping.push(nightly(process.env.ITERON_BACKUPS, env));
    }
    announce(output.trim());
    await new Promise(() => {});
  } catch (error) {
    console.error(error instanceof Trouble ? error.message : error);
    await end(1);
  }
}

/** Says it here and writes it to the log of the server, so that it is known afterwards. */
function note(level, message) {
  say(message);
  try {
    appendFileSync(SERVER_LOG, `${JSON.stringify({ level, time: Date.now(), process: process.pid, msg: message })}\n`);
  } catch {
    // Without room for a line it was at least said.
  }
}

/** A database without room ends and cannot begin; it can when there is room again. */
function noRoom() {
  return freeBytes(paths.state) < SCARCE_BYTES ? "its disk is full" : null;
}

/** Starts the production build on loopback, one process a core; what it says is added to .iteron/server.log. */
export function startServer(env) {
  mkdirSync(paths.state, { recursive: true });
  const log = openSync(SERVER_LOG, "a");
  const child = spawn(process.execPath, ["cli/cluster.mjs", "./build/server/index.js"], {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ["ignore", log, log],
    detached: true,
  });
  closeSync(log);
  return child;
}

/** Waits until the health page answers. */
export async function serving(port) {
  for (let waited = 0; waited < 30_000; waited += 150) {
    const answer = await fetch(`http://127.0.0.1:${port}/health`).catch(() => null);
    if (answer?.ok) return;
    await sleep(150);
  }
  throw new Trouble("The server does not answer after half a minute. See .iteron/server.log.");
}

function announce(prepared) {
  say(`\nIteron is running:  http://127.0.0.1:${PORT}\n`);
  if (prepared) say(prepared);
  say("\nCtrl-C stops it.");
}

async function takeLock() {
  mkdirSync(paths.state, { recursive: true });
  const lock = readLock();
  if (lock && isOurs(lock.pid, CLI_MARK) && lock.pid !== process.pid) {
    throw new Trouble(
      `Iteron is already running from this checkout (process ${lock.pid}) at http://127.0.0.1:${lock.port}. Stop it with ./iteron stop, or use it.`,
    );
  }
  if (lock) {
    say("Clearing the leftovers of a run that ended without stopping; no data are lost.");
    await clearLeftovers(lock);
  }
  writeFileSync(paths.lock, JSON.stringify({ pid: process.pid, port: PORT }));
}

async function clearLeftovers(lock) {
  await endProcess(lock.server, SERVER_MARK);
  await endProcess(lock.database, lock.databaseMark ?? "\0", 60_000);
  rmSync(paths.lock, { force: true });
}

export function readLock() {
  if (!existsSync(paths.lock)) return null;
  try {
    return JSON.parse(readFileSync(paths.lock, "utf8"));
  } catch {
    return { pid: -1 };
  }
}

/** Whole or not at all: on a full disk the one of before stays. */
function writeLock(more) {
  try {
    writeFileSync(`${paths.lock}.new`, JSON.stringify({ ...readLock(), ...more }));
    renameSync(`${paths.lock}.new`, paths.lock);
  } catch (error) {
    if (error.code !== "ENOSPC") throw error;
  }
}
