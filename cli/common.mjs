import { spawn } from "node:child_process";
import { accessSync, constants, existsSync, mkdirSync, readFileSync } from "node:fs";
import net from "node:net";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";

export const root = join(dirname(fileURLToPath(import.meta.url)), "..");
const state = resolve(root, process.env.ITERON_STATE ?? ".iteron");
export const paths = {
  root,
  state,
  build: join(root, "build"),
};

/** The shop's own Iteron and the demonstration run side by side: each has its lock, its log, its database server. */
export const MODES = {
  shop: { lock: join(state, "lock.json"), log: join(state, "server.log"), instance: "main" },
  demo: { lock: join(state, "demo-lock.json"), log: join(state, "demo-server.log"), instance: "demo" },
};

/** Something the person at the terminal can mend; shown without a stack. */
export class Trouble extends Error {}

export function fail(message) {
  console.error(message);
  process.exit(1);
}

export function say(message) {
  console.log(message);
}

/** Runs a program to its end. Resolves with its output, rejects with Trouble showing the last lines. */
export function run(program, args, { quiet = true, env = {}, cwd = root, allowFailure = false } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, {
      cwd,
      env: { ...process.env, ...env },
      stdio: ["ignore", quiet ? "pipe" : "inherit", quiet ? "pipe" : "inherit"],
    });
    let output = "";
    child.stdout?.on("data", (d) => (output += d));
    child.stderr?.on("data", (d) => (output += d));
    child.on("error", (e) => reject(new Trouble(`${program} cannot be started: ${e.message}`)));
    child.on("close", (code) => {
      if (code === 0 || allowFailure) resolve({ code, output });
      else reject(new Trouble(`${[program, ...args].join(" ")} failed:\n${output.split("\n").slice(-25).join("\n")}`));
    });
  });
}

/** True when nothing listens on a loopback port. */
export function portFree(port) {
  return new Promise((resolve) => {
    const server = net.createServer();
    server.once("error", () => resolve(false));
    server.listen(port, "127.0.0.1", () => server.close(() => resolve(true)));
  });
}

/** The wanted port or one of the next fifty. */
export async function freePortFrom(wanted) {
  for (let port = wanted; port < wanted + 50; port++) if (await portFree(port)) return port;
  throw new Trouble(`No free port from ${wanted} to ${wanted + 49}.`);
}

/**
 * Ports below 11000 to which browsers open no page: the WHATWG Fetch Standard, "port blocking", without those below
 * 1024, which need the rights of root.
 */
const BLOCKED = new Set([
  1719, 1720, 1723, 2049, 3659, 4045, 4190, 5060, 5061, 6000, 6566, 6665, 6666, 6667, 6668, 6669, 6679, 6697, 10080,
]);

/** Why a port cannot serve pages, with the remedy; null when it can. */
export async function portTrouble(port, command) {
  const other = `Choose another one: ITERON_PORT=4870 ./iteron ${command}`;
  if (!Number.isInteger(port) || port < 1024 || port > 65_535)
    return `“${process.env.ITERON_PORT}” is no port for Iteron: a whole number from 1024 to 65535. ${other}`;
  if (BLOCKED.has(port)) return `Browsers open no page on port ${port}. ${other}`;
  if (await portFree(port)) return null;
  return `Port ${port} is taken by another program. Choose another one: ITERON_PORT=${port + 1} ./iteron ${command}`;
}

/** Why nothing can be written into the folder of the data; null when it can. */
export function folderTrouble() {
  try {
    // Looked at before: in some places Node never comes back from making a folder.
    let there = state;
    while (!existsSync(there)) there = dirname(there);
    accessSync(there, constants.W_OK);
    if (/^\/(proc|sys)(\/|$)/.test(state)) throw new Error("not a place for files");
    mkdirSync(state, { recursive: true });
    return null;
  } catch {
    return `Iteron cannot write into ${state}. Give the folder to whoever starts it, or name another one: ITERON_STATE=FOLDER`;
  }
}

export const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

/** True when the process exists and its command line holds the mark; a recycled process id does not. */
export function isOurs(pid, mark) {
  if (!Number.isInteger(pid) || pid < 2) return false;
  try {
    return readFileSync(`/proc/${pid}/cmdline`, "utf8").includes(mark);
  } catch {
    return false;
  }
}

/** Asks a process that we started to end, and insists after a while. */
export async function endProcess(pid, mark, patienceMs = 20_000) {
  if (!isOurs(pid, mark)) return;
  process.kill(pid, "SIGTERM");
  for (let waited = 0; isOurs(pid, mark); waited += 100) {
    if (waited > patienceMs) {
      process.kill(pid, "SIGKILL");
      return;
    }
    await sleep(100);
  }
}

/** What must be ended before this program may go, the newest last. */
const open = [];

/** Works with something that is ended afterwards, also when the program is interrupted meanwhile. */
export async function using(end, work) {
  if (open.length === 0) for (const signal of SIGNALS) process.on(signal, endAll);
  open.push(end);
  try {
    return await work();
  } finally {
    open.splice(open.indexOf(end), 1);
    if (open.length === 0) for (const signal of SIGNALS) process.off(signal, endAll);
    await end();
  }
}

const SIGNALS = ["SIGINT", "SIGTERM", "SIGHUP"];

async function endAll() {
  for (const end of open.splice(0).reverse()) await end().catch((e) => console.error(e.message));
  process.exit(130);
}
