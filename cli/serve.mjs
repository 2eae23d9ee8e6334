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
import {
  endProcess,
  folderTrouble,
  freePortFrom,
  isOurs,
  MODES,
  paths,
  portTrouble,
  root,
  run,
  say,
  sleep,
  Trouble,
} from "./common.mjs";
import { rotating } from "./logs.mjs";
import { startMariadb } from "./mariadb.mjs";
import { freeBytes, SCARCE_BYTES } from "./room.mjs";
import { supervised } from "./supervise.mjs";
import { waitFor } from "./waiting.mjs";

const USUAL_PORT = 4870;
/** Ports stay below those that the system gives to outgoing connections (from 32768 on Linux), which it may take at any time. */
export const DB_PORT = Number(process.env.ITERON_DB_PORT ?? 23470);
/** The database of `start`; `demo` has its own. */
export const DATABASE = process.env.ITERON_DATABASE ?? "iteron";
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

/** Asks what runs from this checkout to end, the shop's own and the demonstration, and waits for it. */
export async function stop() {
  const said = [];
  for (const mode of Object.values(MODES)) {
    const lock = readLock(mode);
    if (!lock) continue;
    if (!isOurs(lock.pid, CLI_MARK)) {
      await clearLeftovers(mode, lock);
      said.push("Nothing was running; leftovers of a crash were cleared.");
      continue;
    }
    process.kill(lock.pid, "SIGTERM");
    for (let waited = 0; isOurs(lock.pid, CLI_MARK) && waited < 60_000; waited += 100) await sleep(100);
    said.push("Stopped.");
  }
  say(said.at(-1) ?? "Nothing is running.");
}

/** Says at once what would stop a start later: a folder that cannot be written, a port that cannot be used. */
export async function canStart(demoMode) {
  const mode = demoMode ? MODES.demo : MODES.shop;
  const folder = folderTrouble();
  if (folder) throw new Trouble(folder);
  const lock = readLock(mode);
  if (isOurs(lock?.pid, CLI_MARK)) throw new Trouble(runsAlready(lock));
  const trouble = await portTrouble(await ownPort(mode), demoMode ? "demo" : "start");
  if (trouble) throw new Trouble(trouble);
}

function runsAlready({ pid, port }) {
  return `It is running from this checkout already (process ${pid}) at http://127.0.0.1:${port}. Stop it with ./iteron stop, or use it.`;
}

async function serve({ database, demo: demoMode, reset }) {
  const mode = demoMode ? MODES.demo : MODES.shop;
  const PORT = await ownPort(mode);
  await takeLock(mode, PORT);
  const stopping = [];
  let ending = false;
  let gaveUp = false;
  const end = async (code) => {
    if (ending) return;
    ending = true;
    for (const step of stopping.reverse()) await step().catch((e) => console.error(e.message));
    rmSync(mode.lock, { force: true });
    process.exit(code);
  };
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, () => void end(gaveUp ? 1 : 0));
  try {
    const giveUp = (message) => {
      gaveUp = true;
      note(mode, "fatal", `${message} See the logs in ${paths.state}; everything is stopped.`);
      void end(1);
    };
    const tell = (message) => note(mode, "warn", message);
    const keep = (name, start) => supervised(name, start, { stopping, giveUp, tell, passing: noRoom });
    stopping.push(rotating(mode.log, join(paths.state, mode.instance, "mariadb.log")));
    say("Starting the database ...");
    const db = await keep("The database", async () => {
      const started = await startMariadb(mode.instance, DB_PORT);
      writeLock(mode, { database: started.pid, databaseMark: started.mark, dbPort: started.port, serves: database });
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
    say(demoMode ? "Bringing the demonstration up to date ..." : "Bringing the data up to date ...");
    const { output } = await run(
      process.execPath,
      ["--import", "tsx", "cli/prepare.ts", ...(demoMode ? ["--demo"] : []), ...(reset ? ["--reset"] : [])],
      { env },
    );
    say("Starting the server ...");
    let server = 0;
    await keep("The server", async () => {
      const child = startServer(env, mode.log);
      writeLock(mode, { server: child.pid });
      server = child.pid;
      return { child, stop: () => endProcess(child.pid, SERVER_MARK, SERVER_PATIENCE_MS), started: child };
    });
    await serving(PORT, { pid: server, log: mode.log });
    if (process.env.ITERON_BACKUPS) {
      // It needs a package, and this file is read before any is installed.
      const { nightly } = await import("./nightly.mjs");
      stopping.push(nightly(process.env.ITERON_BACKUPS, env));
    }
    announce(PORT, output.trim());
    await new Promise(() => {});
  } catch (error) {
    console.error(error instanceof Trouble ? error.message : error);
    await end(1);
  }
}

/** Says it here and writes it to the log of the server, so that it is known afterwards. */
function note(mode, level, message) {
  say(message);
  try {
    appendFileSync(mode.log, `${JSON.stringify({ level, time: Date.now(), process: process.pid, msg: message })}\n`);
  } catch {
    // Without room for a line it was at least said.
  }
}

/** A database without room ends and cannot begin; it can when there is room again. */
function noRoom() {
  return freeBytes(paths.state) < SCARCE_BYTES ? "its disk is full" : null;
}

/** Starts the production build on loopback, one process a core; what it says is added to a log. */
export function startServer(env, logFile = MODES.shop.log) {
  mkdirSync(paths.state, { recursive: true });
  const log = openSync(logFile, "a");
  const child = spawn(process.execPath, ["cli/cluster.mjs", "./build/server/index.js"], {
    cwd: root,
    env: { ...process.env, ...env },
    stdio: ["ignore", log, log],
    detached: true,
  });
  closeSync(log);
  return child;
}

/** Waits until the health page answers, as long as the server lives and gets on. */
export async function serving(port, { pid = 0, log = MODES.shop.log } = {}) {
  const answers = async () => (await fetch(`http://127.0.0.1:${port}/health`).catch(() => null))?.ok ?? false;
  await waitFor({ name: "The server", answers, pid, log });
}

/** The port that was asked for; without a word the usual one, or the next free one beside our other Iteron. */
async function ownPort(mode) {
  const asked = Number(process.env.ITERON_PORT ?? USUAL_PORT);
  if (process.env.ITERON_PORT) return asked;
  const besides = Object.values(MODES).filter((m) => m !== mode);
  const beside = besides.some((m) => isOurs(readLock(m)?.pid, CLI_MARK) && readLock(m)?.port === asked);
  return beside ? freePortFrom(asked + 1) : asked;
}

function announce(PORT, prepared) {
  say(`\nIteron is running:  http://127.0.0.1:${PORT}\n`);
  if (prepared) say(prepared);
  say("\nCtrl-C stops it.");
}

async function takeLock(mode, port) {
  const lock = readLock(mode);
  if (lock && isOurs(lock.pid, CLI_MARK) && lock.pid !== process.pid) {
    throw new Trouble(runsAlready(lock));
  }
  if (lock) {
    say("Clearing the leftovers of a run that ended without stopping; no data are lost.");
    await clearLeftovers(mode, lock);
  }
  writeFileSync(mode.lock, JSON.stringify({ pid: process.pid, port }));
}

async function clearLeftovers(mode, lock) {
  await endProcess(lock.server, SERVER_MARK);
  await endProcess(lock.database, lock.databaseMark ?? "\0", 60_000);
  rmSync(mode.lock, { force: true });
}

export function readLock(mode = MODES.shop) {
  if (!existsSync(mode.lock)) return null;
  try {
    return JSON.parse(readFileSync(mode.lock, "utf8"));
  } catch {
    return { pid: -1 };
  }
}

/** Whole or not at all: on a full disk the one of before stays. */
function writeLock(mode, more) {
  try {
    writeFileSync(`${mode.lock}.new`, JSON.stringify({ ...readLock(mode), ...more }));
    renameSync(`${mode.lock}.new`, mode.lock);
  } catch (error) {
    if (error.code !== "ENOSPC") throw error;
  }
}
