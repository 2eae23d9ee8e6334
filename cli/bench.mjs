import { join } from "node:path";
import { build } from "vite";
import { endProcess, freePortFrom, paths, run, say, Trouble, using } from "./common.mjs";
import { startMariadb } from "./mariadb.mjs";
import { serving, startServer } from "./serve.mjs";

const built = join(paths.state, "bench");
const CASES = [
  "bus",
  "engine",
  "rank",
  "documents",
  "strip",
  "connect",
  "coding",
  "camera",
  "judge",
  "search",
  "backup",
  "server",
];

/** Workers of cases. */
const PARTS = ["read-part"];

/** Runs the benchmark cases, one JSON line a case. `./iteron bench bus` runs those whose name holds the word. */
export async function bench(only) {
  const wanted = (name) => only.length === 0 || only.some((o) => name.includes(o));
  const names = CASES.filter(wanted);
  if (names.length === 0)
    throw new Trouble(`No case has “${only.join(" ")}” in its name. There are: ${CASES.join(", ")}.`);
  await buildCases(names);
  for (const name of names) {
    if (name === "search" || name === "backup") await withDatabase(name);
    else if (name === "server") await server();
    else await measure(name, process.env);
  }
}

/** The cases are built as the servers are: what a development runner adds to each function is not measured. */
async function buildCases(names) {
  await build({
    configFile: false,
    logLevel: "error",
    build: {
      ssr: true,
      target: "node20",
      outDir: built,
      emptyOutDir: true,
      rollupOptions: {
        input: Object.fromEntries([...names, ...PARTS].map((name) => [name, `tests/bench/${name}.ts`])),
      },
    },
  });
}

async function measure(name, env) {
  const { output } = await run(process.execPath, [join(built, `${name}.js`)], { env });
  say(output.trim());
}

async function withDatabase(name) {
  const db = await startMariadb("bench-db", await freePortFrom(23680));
  await using(db.stop, () => measure(name, db.env("iteron_bench")));
}

async function server() {
  const db = await startMariadb("bench-db", await freePortFrom(23680));
  const port = await freePortFrom(5170);
  const env = {
    ...db.env("iteron_demo"),
    ITERON_DEMO: "1",
    ITERON_BENCH: "1",
    NODE_ENV: "production",
    HOST: "127.0.0.1",
    PORT: String(port),
  };
  await using(db.stop, async () => {
    await run(process.execPath, ["--import", "tsx", "cli/prepare.ts", "--demo", "--reset"], { env });
    const { pid } = startServer(env);
    await using(
      () => endProcess(pid, "build/server/index.js"),
      async () => {
        await serving(port);
        await measure("server", { ...env, ITERON_URL: `http://127.0.0.1:${port}`, ITERON_SERVER_PID: String(pid) });
      },
    );
  });
}
