import { spawn } from "node:child_process";
import { readFileSync } from "node:fs";
import net from "node:net";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";

export const root = join(dirname(fileURLToPath(import.meta.url)), "..");
const state = resolve(root, process.env.ITERON_STATE ?? ".iteron");
export const paths = {
  root,
  state,
  lock: join(state, "lock.json"),
  build: join(root, "build"),
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
