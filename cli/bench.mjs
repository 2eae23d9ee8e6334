import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { endProcess, freePortFrom, paths, run, say } from "./common.mjs";
import { startMariadb } from "./mariadb.mjs";
import { serving, startServer } from "./serve.mjs";

/** Runs the benchmark cases, one JSON line a case. `./iteron bench parse` runs those whose name holds the word. */
export async function bench(only) {
  const wanted = (name) => only.length === 0 || only.some((o) => name.includes(o));
  mkdirSync(join(paths.state, "bench"), { recursive: true });
  for (const name of ["parse", "engine", "rank", "strip", "connect"]) {
    if (!wanted(name)) continue;
    const { output } = await run(process.execPath, ["--import", "tsx", `tests/bench/${name}.ts`]);
    say(output.trim());
  }
  if (wanted("search")) await search();
  if (wanted("server")) await server();
}

async function search() {
  const db = await startMariadb("bench-db", await freePortFrom(33680));
  try {
    const { output } = await run(process.execPath, ["--import", "tsx", "tests/bench/search.ts"], {
      env: db.env("iteron_bench"),
    });
    say(output.trim());
  } finally {
    await db.stop();
  }
}

async function server() {
  const db = await startMariadb("bench-db", await freePortFrom(33680));
  const port = await freePortFrom(5170);
  const env = {
    ...db.env("iteron_demo"),
    ITERON_DEMO: "1",
    ITERON_BENCH: "1",
    NODE_ENV: "production",
    HOST: "127.0.0.1",
    PORT: String(port),
  };
  let child;
  try {
    await run(process.execPath, ["--import", "tsx", "cli/prepare.ts", "--demo", "--reset"], { env });
    child = startServer(env);
    await serving(port);
    const { output } = await run(process.execPath, ["--import", "tsx", "tests/bench/server.ts"], {
      env: { ...env, ITERON_URL: `http://127.0.0.1:${port}`, ITERON_SERVER_PID: String(child.pid) },
    });
    say(output.trim());
  } finally {
    if (child) await endProcess(child.pid, "build/server/index.js");
    await db.stop();
  }
}
