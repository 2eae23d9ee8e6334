import { createHash } from "node:crypto";
import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { paths, root, run, say, Trouble } from "./common.mjs";

/** What each need is found by, and the Debian packages that bring it. */
const DEBIAN = {
  mariadb: {
    programs: ["/usr/sbin/mariadbd", "/usr/bin/mariadb-install-db", "/usr/bin/mariadb-dump"],
    packages: ["mariadb-server-core", "mariadb-client"],
  },
  // The scripts by which a node brings another one up to date are in the whole server package.
  galera: {
    programs: ["/usr/lib/galera/libgalera_smm.so", "/usr/bin/wsrep_sst_mariabackup", "/usr/bin/mariadb-backup"],
    packages: ["mariadb-server", "galera-4", "mariadb-backup", "socat", "iproute2"],
  },
  haproxy: { programs: ["/usr/sbin/haproxy"], packages: ["haproxy"] },
  chromium: { programs: ["/usr/bin/chromium"], packages: ["chromium"] },
  "can-utils": { programs: ["/usr/bin/log2asc"], packages: ["can-utils"] },
  poppler: { programs: ["/usr/bin/pdftotext"], packages: ["poppler-utils"] },
  tshark: { programs: ["/usr/bin/tshark"], packages: ["tshark"] },
  scapy: { programs: ["/usr/lib/python3/dist-packages/scapy"], packages: ["python3-scapy"] },
  crccheck: { programs: ["/usr/lib/python3/dist-packages/crccheck"], packages: ["python3-crccheck"] },
  opencv: { programs: ["/usr/share/doc/python3-opencv"], packages: ["python3-opencv"] },
  "python-can": { programs: ["/usr/lib/python3/dist-packages/can"], packages: ["python3-can"] },
  canmatrix: { programs: ["/usr/lib/python3/dist-packages/canmatrix"], packages: ["python3-canmatrix"] },
};

/** Installs missing programs from Debian's packages. */
export async function ensureDebian(needs) {
  const missing = needs.filter((n) => DEBIAN[n].programs.some((p) => !existsSync(p)));
  if (missing.length === 0) return;
  const packages = missing.flatMap((n) => DEBIAN[n].packages);
  const command = `apt-get install -y --no-install-recommends ${packages.join(" ")}`;
  if (process.getuid() !== 0) {
    throw new Trouble(
      `Missing: ${missing.join(", ")}. Installing needs the rights of root; run this, then ./iteron again:\n  sudo apt-get update && sudo ${command}`,
    );
  }
  say(`Installing from Debian: ${packages.join(", ")} ...`);
  const env = { DEBIAN_FRONTEND: "noninteractive" };
  await run("apt-get", ["update"], { env, allowFailure: true });
  await run("apt-get", command.split(" ").slice(1), { env });
}

/** Installs the locked npm packages when the lock file changed. */
export async function ensurePackages() {
  const mark = join(root, "node_modules", ".iteron-lock");
  const wanted = hashOf([join(root, "package-lock.json")]);
  if (existsSync(mark) && readFileSync(mark, "utf8") === wanted) return;
  say("Installing the locked npm packages ...");
  // Not `npm ci`: it refuses a lock file without the optional binaries of other platforms, which registries may lack.
  await run("npm", ["install", "--no-save", "--no-audit", "--no-fund"]);
  writeFileSync(mark, wanted);
}

/** Builds the application when its sources changed. */
export async function ensureBuild() {
  const mark = join(paths.build, ".iteron-sources");
  const wanted = hashOf(sources());
  if (existsSync(mark) && readFileSync(mark, "utf8") === wanted) return;
  say("Building ...");
  await run("npx", ["--no-install", "react-router", "build"], { env: { NODE_ENV: "production" } });
  writeFileSync(mark, wanted);
}

function sources() {
  const single = ["package-lock.json", "vite.config.ts", "react-router.config.ts", "tsconfig.json"].map((f) =>
    join(root, f),
  );
  return [
    ...single,
    ...["app", "core", "profiles", "sim", "db", "demo", "public"].flatMap((f) => files(join(root, f))),
  ];
}

function files(folder) {
  if (!existsSync(folder)) return [];
  return readdirSync(folder, { withFileTypes: true })
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .flatMap((e) => (e.isDirectory() ? files(join(folder, e.name)) : [join(folder, e.name)]))
    .filter((f) => !f.endsWith(".test.ts"));
}

function hashOf(list) {
  const hash = createHash("sha256");
  for (const file of list) hash.update(file.slice(root.length)).update(readFileSync(file));
  return hash.digest("hex");
}
