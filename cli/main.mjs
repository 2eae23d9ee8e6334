import { backup, restore, verify } from "./backup.mjs";
import { fail, Trouble } from "./common.mjs";
import { ensureBuild, ensureDebian, ensurePackages } from "./install.mjs";
import { canStart, demo, start, stop } from "./serve.mjs";

const HELP = `Usage: ./iteron COMMAND

  demo        install, build and serve with the demonstration data; prints address and sign-in
  start       the same without demonstration data; the first visit asks for the shop and its lead
  stop        stop what runs from this checkout
  reset-demo  throw the demonstration data away and load it anew
  backup FILE              one consistent copy of everything, while people work
  verify FILE              read a backup to its end and compare its checksum
  restore FILE             bring it back; with --into NAME beside the present data, with --replace in its place
  cluster     on this machine: three database nodes, two servers and a proxy, with the demonstration
  bench       measure speed against peers in the same run, one JSON line a case
  test        run all checks and tests; ends with "N passed, N failed"
  help        this text

The shop's own Iteron and the demonstration run side by side; whichever starts second takes the next free port.
Settings by environment: ITERON_PORT (default 4870), ITERON_DB_PORT (default 23470), ITERON_DATABASE (default iteron),
ITERON_BACKUPS (a folder: a backup every night; seven days, five weeks and twelve months are kept).
ITERON_STATE (where data and logs lie, default .iteron of this checkout; nothing outside it is touched),
ITERON_HOSTS (names under which it is reached, with commas), ITERON_PROXY (proxies whose word on who asks is taken).`;

const COMMANDS = {
  demo,
  start,
  stop,
  "reset-demo": () => demo({ reset: true }),
  backup: () => backup(process.argv.slice(3)),
  verify: () => verify(process.argv.slice(3)),
  restore: () => restore(process.argv.slice(3)),
  cluster: async () => (await import("./galera.mjs")).cluster(),
  bench: async () => (await import("./bench.mjs")).bench(process.argv.slice(3)),
  test: async () => (await import("./test.mjs")).test(process.argv.slice(3)),
  help: async () => console.log(HELP),
};

const [name = "help"] = process.argv.slice(2);
const command = COMMANDS[name.replace(/^--?h(elp)?$/, "help")];
if (!command) fail(`There is no command “${name}”.\n\n${HELP}`);

// Whoever reads what this command says may go away; what it started goes on.
for (const stream of [process.stdout, process.stderr]) stream.on("error", () => {});

try {
  if (["demo", "start", "reset-demo"].includes(name)) await canStart(name !== "start");
  if (!["help", "stop"].includes(name)) {
    const needs = {
      test: [
        "mariadb",
        "chromium",
        "can-utils",
        "canmatrix",
        "python-can",
        "poppler",
        "tshark",
        "scapy",
        "crccheck",
        "opencv",
      ],
      bench: ["mariadb", "can-utils", "opencv"],
      cluster: ["mariadb", "galera", "haproxy"],
    };
    const trial = name === "test" && process.argv.includes("cluster");
    await ensureDebian([...(needs[name] ?? ["mariadb"]), ...(trial ? needs.cluster : [])]);
    await ensurePackages();
    if (!["test", "backup", "verify", "restore"].includes(name)) await ensureBuild();
  }
  await command();
} catch (error) {
  if (error instanceof Trouble) fail(error.message);
  throw error;
}
