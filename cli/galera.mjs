/**
 * Several machines on one: a Galera cluster of three MariaDB nodes, two servers of Iteron and HAProxy before both, all on
 * loopback. `docs/guide/deploy.md` tells how the same is laid out over real machines.
 */
import { spawn } from "node:child_process";
import { randomBytes } from "node:crypto";
import { closeSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir, userInfo } from "node:os";
import { join } from "node:path";
import mysql from "mysql2/promise";
import { endProcess, isOurs, paths, portFree, root, run, say, sleep, Trouble } from "./common.mjs";

const NODES = [1, 2, 3];
const SERVERS = [1, 2];
/** Below 32768: above it the system gives ports to outgoing connections, one of which once took that of a node. */
const PORTS = { sql: 23760, group: 23770, ist: 23780, sst: 23790, database: 23769, web: 4880, server: 4890 };

/** Starts all of it in a folder of its own, empty, and waits until it serves the demonstration. */
export async function startCluster(folder = join(paths.state, "cluster")) {
  for (const port of [PORTS.database, PORTS.web, ...NODES.map((n) => PORTS.sql + n)])
    if (!(await portFree(port))) throw new Trouble(`Port ${port} is taken. Is another cluster running?`);
  rmSync(folder, { recursive: true, force: true });
  const secrets = { iteron: randomBytes(24).toString("hex"), sst: randomBytes(24).toString("hex") };
  for (const n of NODES) mkdirSync(join(folder, `node${n}`), { recursive: true });
  const machine = { folder, secrets, children: new Map(), servers: new Map(), haproxy: null };
  await install(machine);
  for (const n of NODES) await startNode(machine, n);
  startHaproxy(machine);
  const env = environment(machine);
  await until(() => answers(PORTS.database, secrets.iteron), 20_000, "The proxy before the database");
  await run(process.execPath, ["--import", "tsx", "cli/prepare.ts", "--demo", "--reset"], { env });
  for (const s of SERVERS) startServerOf(machine, s);
  const origin = `http://127.0.0.1:${PORTS.web}`;
  await until(
    async () => (await fetch(`${origin}/ready`).catch(() => null))?.ok,
    40_000,
    "The proxy before the servers",
  );
  return {
    origin,
    env,
    /** The first node by which the proxy writes. */
    nodes: NODES,
    servers: SERVERS,
    killNode: (n) => kill(machine.children.get(n)?.pid, dataOf(machine, n)),
    startNode: (n) => startNode(machine, n),
    killServer: (s) => kill(machine.servers.get(s)?.pid, "cli/cluster.mjs"),
    startServer: (s) => startServerOf(machine, s),
    pidOfNode: (n) => machine.children.get(n)?.pid,
    /** What a node says of itself. */
    status: (n) => statusOf(machine, n),
    connect: (n) => nodeConnection(machine, n),
    async stop() {
      await endProcess(machine.haproxy?.pid, "haproxy", 2000);
      for (const s of SERVERS) await endProcess(machine.servers.get(s)?.pid, "cli/cluster.mjs", 3000);
      for (const n of [...NODES].reverse()) await endProcess(machine.children.get(n)?.pid, dataOf(machine, n), 20_000);
    },
  };
}

const dataOf = ({ folder }, n) => join(folder, `node${n}`, "data");
/** A socket path may have 107 characters at most. */
const socketOf = (n) => join(tmpdir(), `iteron-cluster-${PORTS.sql + n}.sock`);

/** Settings of a node. Detection of a dead one in two seconds instead of five; replication by row, one lock mode. */
function settingsOf({ folder, secrets }, n) {
  const at = (port, node = n) => `127.0.0.1:${port + node}`;
  const provider = {
    "gmcast.listen_addr": `tcp://${at(PORTS.group)}`,
    "ist.recv_addr": at(PORTS.ist),
    "gcache.size": "64M",
    "evs.keepalive_period": "PT0.5S",
    "evs.inactive_check_period": "PT0.25S",
    "evs.suspect_timeout": "PT2S",
    "evs.inactive_timeout": "PT5S",
    "evs.install_timeout": "PT5S",
  };
  return [
    "[mariadbd]",
    `datadir=${dataOf({ folder }, n)}`,
    `socket=${socketOf(n)}`,
    `pid-file=${join(folder, `node${n}`, "mariadbd.pid")}`,
    `log-error=${join(folder, `node${n}`, "mariadb.log")}`,
    `user=${userInfo().username}`,
    "bind-address=127.0.0.1",
    `port=${PORTS.sql + n}`,
    "skip-name-resolve",
    "character-set-server=utf8mb4",
    "max-allowed-packet=16M",
    "max-connections=150",
    "innodb-buffer-pool-size=128M",
    "innodb-log-file-size=48M",
    "innodb-flush-log-at-trx-commit=1",
    "binlog-format=ROW",
    "default-storage-engine=InnoDB",
    "innodb-autoinc-lock-mode=2",
    "wsrep-on=ON",
    "wsrep-provider=/usr/lib/galera/libgalera_smm.so",
    "wsrep-cluster-name=iteron",
    `wsrep-node-name=node${n}`,
    `wsrep-cluster-address=gcomm://${NODES.map((o) => at(PORTS.group, o)).join(",")}`,
    `wsrep-node-address=${at(PORTS.group)}`,
    `wsrep-node-incoming-address=${at(PORTS.sql)}`,
    "wsrep-sst-method=mariabackup",
    `wsrep-sst-auth=sst:${secrets.sst}`,
    "wsrep-sst-donor=node3,node2,",
    `wsrep-sst-receive-address=${at(PORTS.sst)}`,
    `wsrep-provider-options="${Object.entries(provider)
      .map(([k, v]) => `${k}=${v}`)
      .join(";")}"`,
    "[sst]",
    "sockopt=,bind=127.0.0.1",
    "sst-log-archive=0",
    "",
  ].join("\n");
}

/** Makes the first node's data and copies them to the others, so that none has to be fetched whole. */
async function install(machine) {
  const { folder, secrets } = machine;
  for (const n of NODES) writeFileSync(join(folder, `node${n}`, "my.cnf"), settingsOf(machine, n), { mode: 0o600 });
  await run("mariadb-install-db", [
    "--no-defaults",
    `--datadir=${dataOf(machine, 1)}`,
    "--auth-root-authentication-method=normal",
    "--skip-test-db",
    `--user=${userInfo().username}`,
  ]);
  spawnNode(machine, 1, ["--wsrep-new-cluster"]);
  await synced(machine, 1, { socketPath: socketOf(1), user: "root" });
  const sql = await mysql.createConnection({ socketPath: socketOf(1), user: "root" });
  // `chk` has no password and no right: the proxy asks with it whether a node takes part.
  for (const statement of [
    `CREATE USER sst@localhost IDENTIFIED BY '${secrets.sst}'`,
    "GRANT RELOAD, PROCESS, LOCK TABLES, REPLICATION CLIENT ON *.* TO sst@localhost",
    "CREATE USER chk@127.0.0.1",
    `CREATE USER iteron@127.0.0.1 IDENTIFIED BY '${secrets.iteron}'`,
    "GRANT ALL ON `iteron%`.* TO iteron@127.0.0.1",
    "DROP USER IF EXISTS root@127.0.0.1, root@'::1'",
    "CREATE DATABASE iteron_demo CHARACTER SET utf8mb4",
  ])
    await sql.query(statement);
  await sql.end();
  await endProcess(machine.children.get(1).pid, dataOf(machine, 1), 20_000);
  for (const n of NODES.slice(1)) {
    await run("cp", ["-a", dataOf(machine, 1), dataOf(machine, n)]);
    rmSync(join(dataOf(machine, n), "galera.cache"), { force: true });
    const state = join(dataOf(machine, n), "grastate.dat");
    writeFileSync(state, readFileSync(state, "utf8").replace("safe_to_bootstrap: 1", "safe_to_bootstrap: 0"));
  }
}

/**
 * Starts a node and waits until it takes part. After a crash InnoDB is asked first how far it had come; without that a
 * node would be fetched whole. The one that was stopped last begins a new cluster when no other is there.
 */
async function startNode(machine, n) {
  const state = readFileSync(join(dataOf(machine, n), "grastate.dat"), "utf8");
  const config = `--defaults-file=${join(machine.folder, `node${n}`, "my.cnf")}`;
  const more = [];
  if (/seqno:\s*-1/.test(state)) {
    const log = join(machine.folder, `node${n}`, "recover.log");
    rmSync(log, { force: true });
    await run("/usr/sbin/mariadbd", [config, "--wsrep-recover", `--log-error=${log}`], { allowFailure: true });
    const position = /Recovered position: *(\S+)/.exec(readFileSync(log, "utf8"))?.[1];
    if (position) more.push(`--wsrep-start-position=${position}`);
  }
  const alone = NODES.every((o) => !isOurs(machine.children.get(o)?.pid, dataOf(machine, o)));
  if (alone && /safe_to_bootstrap: 1/.test(state)) more.push("--wsrep-new-cluster");
  spawnNode(machine, n, more);
  await synced(machine, n);
}

function spawnNode(machine, n, more) {
  const log = openSync(join(machine.folder, `node${n}`, "out.log"), "a");
  const config = `--defaults-file=${join(machine.folder, `node${n}`, "my.cnf")}`;
  const child = spawn("/usr/sbin/mariadbd", [config, `--datadir=${dataOf(machine, n)}`, ...more], {
    detached: true,
    stdio: ["ignore", log, log],
  });
  closeSync(log);
  child.unref();
  machine.children.set(n, child);
}

const nodeConnection = ({ secrets }, n) =>
  mysql.createConnection({
    host: "127.0.0.1",
    port: PORTS.sql + n,
    user: "iteron",
    password: secrets.iteron,
    connectTimeout: 2000,
  });

async function statusOf(machine, n, options) {
  const sql = await (options ? mysql.createConnection(options) : nodeConnection(machine, n));
  try {
    const [rows] = await sql.query(
      "SHOW STATUS WHERE variable_name IN ('wsrep_local_state_comment', 'wsrep_cluster_size', 'wsrep_cluster_status', 'wsrep_ready')",
    );
    return Object.fromEntries(rows.map((r) => [r.Variable_name, r.Value]));
  } finally {
    await sql.end();
  }
}

const synced = (machine, n, options) =>
  until(
    async () => {
      if (!isOurs(machine.children.get(n)?.pid, dataOf(machine, n)))
        throw new Trouble(`Node ${n} has ended. See ${join(machine.folder, `node${n}`, "mariadb.log")}.`);
      const state = await statusOf(machine, n, options).catch(() => null);
      return state?.wsrep_local_state_comment === "Synced" && state.wsrep_ready === "ON";
    },
    60_000,
    `Node ${n}`,
  );

async function answers(port, password) {
  const sql = await mysql
    .createConnection({ host: "127.0.0.1", port, user: "iteron", password, connectTimeout: 1000 })
    .catch(() => null);
  await sql?.end();
  return sql !== null;
}

async function until(ok, mostMs, what) {
  for (let waited = 0; waited < mostMs; waited += 100) {
    if (await ok()) return;
    await sleep(100);
  }
  throw new Trouble(`${what} does not come up.`);
}

async function kill(pid, mark) {
  if (!isOurs(pid, mark)) throw new Trouble("It does not run.");
  process.kill(pid, "SIGKILL");
  while (isOurs(pid, mark)) await sleep(10);
}

function environment({ secrets }) {
  return {
    ITERON_DB_HOST: "127.0.0.1",
    ITERON_DB_PORT: String(PORTS.database),
    ITERON_DB_USER: "iteron",
    ITERON_DB_PASSWORD: secrets.iteron,
    ITERON_DB_NAME: "iteron_demo",
    ITERON_DEMO: "1",
    ITERON_WORKERS: "1",
    NODE_ENV: "production",
    HOST: "127.0.0.1",
  };
}

function startServerOf(machine, s) {
  const log = openSync(join(machine.folder, `server${s}.log`), "a");
  const child = spawn(process.execPath, ["cli/cluster.mjs", "./build/server/index.js"], {
    cwd: root,
    env: {
      ...process.env,
      ...environment(machine),
      // As on machines of their own.
      ITERON_STATE: join(machine.folder, `server${s}`),
      PORT: String(PORTS.server + s),
    },
    stdio: ["ignore", log, log],
    detached: true,
  });
  closeSync(log);
  child.unref();
  machine.servers.set(s, child);
}

/**
 * One node is written to and stays it until it fails: with writers on several nodes reads may be stale and every
 * statement may be refused for a conflict. A node without a majority still takes sign-ins, so that it is asked for more.
 */
function startHaproxy(machine) {
  const { folder } = machine;
  const config = join(folder, "haproxy.cfg");
  writeFileSync(config, haproxyConfig());
  const log = openSync(join(folder, "haproxy.log"), "a");
  machine.haproxy = spawn("/usr/sbin/haproxy", ["-db", "-f", config], { detached: true, stdio: ["ignore", log, log] });
  closeSync(log);
  machine.haproxy.unref();
}

function haproxyConfig() {
  const check = "check inter 500ms fastinter 250ms downinter 500ms fall 2 rise 2";
  return `global
  maxconn 2000
defaults
  timeout connect 2s
  timeout check 1s
listen database
  mode tcp
  bind 127.0.0.1:${PORTS.database}
  timeout client 8h
  timeout server 8h
  balance first
  stick-table type ip size 10 nopurge
  stick on dst
${loginCheck()}
  default-server ${check} on-marked-down shutdown-sessions
${NODES.map((n) => `  server node${n} 127.0.0.1:${PORTS.sql + n}`).join("\n")}
listen web
  mode http
  bind 127.0.0.1:${PORTS.web}
  timeout client 60s
  timeout server 60s
  timeout http-request 10s
  option http-no-delay
  # The only files that a server has for itself are the backups made in the browser: one server is asked for them.
  use_backend backups if { path_beg /backup }
  balance leastconn
  option redispatch
  retries 2
  option httpchk GET /ready
  default-server ${check}
${SERVERS.map((s) => `  server server${s} 127.0.0.1:${PORTS.server + s}`).join("\n")}
backend backups
  mode http
  timeout server 60s
  option http-no-delay
  option redispatch
  option httpchk GET /ready
  default-server ${check}
${SERVERS.map((s, i) => `  server server${s} 127.0.0.1:${PORTS.server + s}${i > 0 ? " backup" : ""}`).join("\n")}
`;
}

/**
 * What the proxy says to a node and hears from it, by the client/server protocol of MariaDB: it signs in as `chk` and
 * asks whether the node is ready.
 */
function loginCheck() {
  const packet = (number, payload) =>
    Buffer.concat([Buffer.from([payload.length & 255, payload.length >> 8, 0, number]), payload]);
  const capabilities = Buffer.alloc(32);
  // Long password, protocol 4.1, secure connection.
  capabilities.writeUInt32LE(0x8201, 0);
  capabilities.writeUInt32LE(0x01000000, 4);
  capabilities[8] = 45; // utf8mb4_general_ci
  const login = packet(1, Buffer.concat([capabilities, Buffer.from("chk\0"), Buffer.from([0])]));
  const query = packet(0, Buffer.concat([Buffer.from([3]), Buffer.from("SHOW STATUS LIKE 'wsrep_ready'")]));
  const quit = packet(0, Buffer.from([1]));
  const ready = Buffer.concat([Buffer.from([11]), Buffer.from("wsrep_ready"), Buffer.from([2]), Buffer.from("ON")]);
  return [
    "option tcp-check",
    "tcp-check connect",
    // Ten is the version of the protocol in the greeting, seven the length of an acknowledgement.
    "tcp-check expect rbinary ^.{8}0A",
    `tcp-check send-binary ${login.toString("hex")}`,
    "tcp-check expect rbinary ^07000002",
    `tcp-check send-binary ${query.toString("hex")}`,
    `tcp-check expect binary ${ready.toString("hex")}`,
    `tcp-check send-binary ${quit.toString("hex")}`,
  ]
    .map((line) => `  ${line}`)
    .join("\n");
}

/** `./iteron cluster`: until it is interrupted. */
export async function cluster() {
  say("Starting three nodes of the database, two servers and a proxy ...");
  const machine = await startCluster();
  say(
    `\nIteron is running:  ${machine.origin}\nDatabase by its proxy:  127.0.0.1:${PORTS.database}\n\nCtrl-C stops it.`,
  );
  await new Promise((resolve) => {
    for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, resolve);
  });
  await machine.stop();
  say("Stopped.");
}
