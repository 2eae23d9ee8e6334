import { spawn } from "node:child_process";
import { createHash, randomBytes } from "node:crypto";
import { chmodSync, existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir, userInfo } from "node:os";
import { join } from "node:path";
import { endProcess, freePortFrom, isOurs, paths, portFree, run } from "./common.mjs";
import { waitFor } from "./waiting.mjs";

/**
 * Starts a MariaDB of our own: data under .iteron/NAME, loopback only, a password made at the first start.
 * Resolves with { pid, env, stop } once it answers; `env` holds the ITERON_DB_* settings for a database name.
 */
export async function startMariadb(name, wantedPort) {
  const folder = join(paths.state, name);
  const data = join(folder, "data");
  mkdirSync(folder, { recursive: true });
  await endLeftover(folder, data);
  const secret = ensureSecret(folder);
  const user = userInfo().username;
  if (!existsSync(join(data, "mysql"))) {
    await run("mariadb-install-db", [
      "--no-defaults",
      `--datadir=${data}`,
      "--auth-root-authentication-method=normal",
      "--skip-test-db",
      `--user=${user}`,
    ]);
  }
  const port = (await portFree(wantedPort)) ? wantedPort : await freePortFrom(wantedPort + 1);
  const log = join(folder, "mariadb.log");
  const child = spawn("/usr/sbin/mariadbd", serverArguments({ folder, data, port, user, log, secret }), {
    detached: true,
    stdio: ["ignore", openSync(log, "a"), openSync(log, "a")],
  });
  child.unref();
  try {
    writeFileSync(join(folder, "pid"), String(child.pid));
    await answering(port, child, log);
  } catch (error) {
    // Nobody would know of it: it must not hold the data.
    await endProcess(child.pid, data, 10_000);
    throw error;
  }
  return {
    pid: child.pid,
    child,
    port,
    env: (database) => environment(port, secret, database),
    stop: () => endProcess(child.pid, data, 60_000),
    mark: data,
  };
}

function serverArguments({ folder, data, port, user, log, secret }) {
  const init = join(folder, "init.sql");
  const text = initSql(secret);
  if (!existsSync(init) || readFileSync(init, "utf8") !== text) writeFileSync(init, text, { mode: 0o600 });
  // A socket path may have 107 characters at most, a checkout path may be longer.
  const socket = join(tmpdir(), `iteron-${createHash("sha256").update(data).digest("hex").slice(0, 12)}.sock`);
  return [
    "--no-defaults",
    `--datadir=${data}`,
    `--user=${user}`,
    `--port=${port}`,
    "--bind-address=127.0.0.1",
    `--socket=${socket}`,
    `--pid-file=${join(folder, "mariadbd.pid")}`,
    `--log-error=${log}`,
    `--init-file=${init}`,
    "--character-set-server=utf8mb4",
    "--max-allowed-packet=16M",
    "--innodb-buffer-pool-size=128M",
    "--innodb-log-file-size=48M",
    "--max-connections=100",
    "--skip-name-resolve",
    "--skip-log-bin",
  ];
}

function initSql(secret) {
  const databases = ["iteron", "iteron_demo", "iteron_test", "iteron_bench"];
  return [
    ...databases.map((d) => `CREATE DATABASE IF NOT EXISTS ${d} CHARACTER SET utf8mb4;`),
    ...["127.0.0.1", "localhost"].flatMap((h) => [
      `CREATE USER IF NOT EXISTS 'iteron'@'${h}' IDENTIFIED BY '${secret}';`,
      `GRANT ALL ON \`iteron%\`.* TO 'iteron'@'${h}';`,
    ]),
    `ALTER USER IF EXISTS 'root'@'localhost' IDENTIFIED BY '${secret}';`,
    "",
  ].join("\n");
}

function ensureSecret(folder) {
  const file = join(folder, "secret");
  if (!existsSync(file)) writeFileSync(file, randomBytes(24).toString("hex"), { mode: 0o600 });
  chmodSync(file, 0o600);
  return readFileSync(file, "utf8").trim();
}

/** A server left over from a crash holds the data; it is ended in order, InnoDB recovers what it must. */
async function endLeftover(folder, data) {
  for (const name of ["pid", "mariadbd.pid"]) {
    const file = join(folder, name);
    if (!existsSync(file)) continue;
    const pid = Number(readFileSync(file, "utf8").trim());
    if (isOurs(pid, data)) await endProcess(pid, data, 60_000);
    rmSync(file, { force: true });
  }
}

/** As long as it lives and gets on: after a crash it first recovers what it must. */
async function answering(port, child, log) {
  await waitFor({ name: "MariaDB", answers: async () => !(await portFree(port)), pid: child.pid ?? -1, log });
}

export function environment(port, secret, database) {
  return {
    ITERON_DB_HOST: "127.0.0.1",
    ITERON_DB_PORT: String(port),
    ITERON_DB_USER: "iteron",
    ITERON_DB_PASSWORD: secret,
    ITERON_DB_NAME: database,
  };
}
