import { mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { endProcess, freePortFrom, paths, run, say, using } from "./common.mjs";
import { ensureBuild } from "./install.mjs";
import { startMariadb } from "./mariadb.mjs";
import { serving, startServer } from "./serve.mjs";

/**
 * Runs everything: format and lint, layers, types, dead code, unit, integration on a real MariaDB, end-to-end in a
 * real Chromium. `./iteron test unit e2e` runs those steps alone. Ends with "N passed, N failed". `./iteron test strength`
 * runs the trials that take minutes and prints what they found. `--long` goes with a step's name: a hundred cycles, a log
 * of ten million frames.
 */
export async function test(only) {
  const reports = join(paths.state, "reports");
  rmSync(reports, { recursive: true, force: true });
  mkdirSync(reports, { recursive: true });
  const total = { passed: 0, failed: 0 };
  const step = async (name, work) => {
    if (only.length > 0 && !only.includes(name)) return;
    const started = Date.now();
    const { passed, failed, output, note = "" } = await work();
    total.passed += passed;
    total.failed += failed;
    if (failed > 0) say(output);
    say(
      `${name.padEnd(12)} ${String(passed).padStart(4)} passed ${String(failed).padStart(4)} failed   ${((Date.now() - started) / 1000).toFixed(0)} s  ${note}`,
    );
  };
  const npx = (...args) => run("npx", ["--no-install", ...args], { allowFailure: true });

  await step("lint", async () => whole(await npx("biome", "check", ".")));
  await step("layers", async () => whole(await run(process.execPath, ["cli/layers.mjs"], { allowFailure: true })));
  await step("types", async () => {
    await npx("react-router", "typegen");
    return whole(await npx("tsc", "--noEmit"));
  });
  await step("dead-code", async () => whole(await npx("knip")));
  await step("unit", () => vitest("unit", reports, {}));
  // Only when they are asked for: they take minutes.
  const long = only.includes("--long") ? "1" : "";
  if (only.includes("strength")) {
    await ensureBuild();
    await step("strength", () => vitest("strength", reports, { ITERON_LONG: long }, "tests/strength"));
    say(readOr(join(paths.state, "reports", "strength.txt"), ""));
  }
  if (only.includes("cluster")) {
    await ensureBuild();
    await step("cluster", () => vitest("strength", reports, { ITERON_LONG: long }, "tests/cluster"));
    say(readOr(join(paths.state, "reports", "strength.txt"), ""));
  }
  if (only.length === 0 || only.some((o) => ["integration", "e2e"].includes(o))) {
    await ensureBuild();
    const db = await startMariadb("test", await freePortFrom(23570));
    await using(db.stop, async () => {
      await step("integration", () => vitest("integration", reports, db.env("iteron_test")));
      await step("e2e", () => endToEnd(reports, db.env, long));
    });
  }
  say(`\n${total.passed} passed, ${total.failed} failed`);
  process.exit(total.failed > 0 ? 1 : 0);
}

function whole({ code, output }) {
  return code === 0 ? { passed: 1, failed: 0, output } : { passed: 0, failed: 1, output };
}

async function vitest(project, reports, env, ...files) {
  const file = join(reports, `${project}.json`);
  const { code, output } = await run(
    "npx",
    [
      "--no-install",
      "vitest",
      "run",
      "--project",
      project,
      "--reporter=default",
      "--reporter=json",
      `--outputFile.json=${file}`,
      ...files,
    ],
    { allowFailure: true, env: { ...env, NO_COLOR: "1" } },
  );
  const report = read(file);
  if (!report) return { passed: 0, failed: 1, output };
  const failed = report.numFailedTests + (code !== 0 && report.numFailedTests === 0 ? 1 : 0);
  return { passed: report.numPassedTests, failed, output };
}

/** Lanes of end-to-end tests: each has a demonstration and a server of its own, so that none meets the other's work. */
const LANES = 2;

async function endToEnd(reports, dbEnvOf, long) {
  const lanes = [];
  for (let i = 1, from = 4970; i <= LANES; i++) {
    const port = await freePortFrom(from);
    from = port + 1;
    lanes.push({ port, env: dbEnvOf(`iteron_test_${i}`) });
  }
  await Promise.all(
    lanes.map(({ env }) => run(process.execPath, ["--import", "tsx", "cli/prepare.ts", "--demo", "--reset"], { env })),
  );
  return withServers(lanes, async () => {
    const file = join(reports, "e2e.json");
    const { output } = await run("npx", ["--no-install", "playwright", "test"], {
      allowFailure: true,
      env: {
        ITERON_LANES: JSON.stringify(lanes.map(({ port, env }) => ({ url: `http://127.0.0.1:${port}`, env }))),
        ITERON_LONG: long,
        PLAYWRIGHT_JSON_OUTPUT_NAME: file,
        NO_COLOR: "1",
      },
    });
    const report = read(file);
    if (!report) return { passed: 0, failed: 1, output };
    return {
      passed: report.stats.expected + report.stats.flaky,
      note: report.stats.flaky > 0 ? `${report.stats.flaky} at a further try` : "",
      failed: report.stats.unexpected || (report.errors?.length ?? 0),
      output,
    };
  });
}

/** Does the work while a server runs on each lane. */
function withServers([lane, ...others], work) {
  if (!lane) return work();
  const env = { ...lane.env, ITERON_DEMO: "1", NODE_ENV: "production", HOST: "127.0.0.1", PORT: String(lane.port) };
  const { pid } = startServer(env);
  return using(
    () => endProcess(pid, "build/server/index.js"),
    async () => {
      await serving(lane.port);
      return withServers(others, work);
    },
  );
}

function read(file) {
  const text = readOr(file, null);
  return text && JSON.parse(text);
}

function readOr(file, otherwise) {
  try {
    return readFileSync(file, "utf8");
  } catch {
    return otherwise;
  }
}
