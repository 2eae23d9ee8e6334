/**
 * Serves the production build with one process a core behind one port, and starts a process again that has died.
 * Usage: node cli/cluster.mjs build/server/index.js, with PORT, HOST and ITERON_WORKERS in the environment.
 */
import cluster from "node:cluster";
import { availableParallelism } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { backOffMs } from "./supervise.mjs";

const WORKERS = Number(process.env.ITERON_WORKERS ?? availableParallelism());
/** What is under way gets so long to finish. */
const PATIENCE_MS = 1500;

cluster.setupPrimary({
  exec: join(dirname(fileURLToPath(import.meta.url)), "worker.mjs"),
  args: process.argv.slice(2),
});

let ending = false;
const deaths = [];
for (let i = 0; i < WORKERS; i++) cluster.fork();

cluster.on("exit", (worker, code, signal) => {
  if (ending) return;
  deaths.push(Date.now());
  const wait = backOffMs(deaths, Date.now());
  if (wait === null) {
    console.error("The server processes die again and again. See the lines above.");
    process.exit(1);
  }
  console.error(`Server process ${worker.process.pid} ended (${signal ?? code}); another one starts.`);
  setTimeout(() => cluster.fork(), wait);
});

for (const signal of ["SIGTERM", "SIGINT", "SIGHUP"]) process.on(signal, end);

function end() {
  if (ending) return;
  ending = true;
  const workers = Object.values(cluster.workers ?? {});
  let left = workers.length;
  if (left === 0) process.exit(0);
  for (const worker of workers) {
    worker.on("exit", () => {
      left--;
      if (left === 0) process.exit(0);
    });
    worker.process.kill("SIGTERM");
    setTimeout(() => worker.process.kill("SIGKILL"), PATIENCE_MS);
  }
}
