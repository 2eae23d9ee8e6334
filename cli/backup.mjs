import { readFileSync } from "node:fs";
import { join, resolve } from "node:path";
import { freePortFrom, isOurs, MODES, paths, root, run, Trouble, using } from "./common.mjs";
import { environment, startMariadb } from "./mariadb.mjs";
import { CLI_MARK, DATABASE, DB_PORT, readLock } from "./serve.mjs";

/** `./iteron backup FILE`: while people work or while nothing runs. */
export async function backup(args) {
  const file = fileOf(args, "backup");
  await onDatabase((env) => script(["backup", file], env));
}

export async function verify(args) {
  await script(["verify", fileOf(args, "verify")], {});
}

export async function restore(args) {
  const file = fileOf(args, "restore");
  await onDatabase((env, running) => {
    if (running === env.ITERON_DB_NAME && !args.includes("--into"))
      throw new Trouble(
        "Iteron is running on this database. Stop it first (./iteron stop), or restore with --into NAME.",
      );
    return script(["restore", file, ...args.slice(1)], env);
  });
}

function fileOf([file], command) {
  if (!file || file.startsWith("--")) throw new Trouble(`Say which file: ./iteron ${command} FILE`);
  return resolve(process.env.ITERON_CWD ?? root, file);
}

/** What it says goes to the terminal as it comes. */
async function script(args, env) {
  const { code } = await run(process.execPath, ["--import", "tsx", "cli/backup.ts", ...args], {
    quiet: false,
    env,
    allowFailure: true,
  });
  process.exitCode = code;
}

/**
 * Works on the database that the environment names, on the one that runs from this checkout, or on the same one started
 * for the time being.
 *
 * @param work gets the settings, and the database that is served at the moment
 */
async function onDatabase(work) {
  if (process.env.ITERON_DB_HOST) return work({ ITERON_DB_NAME: process.env.ITERON_DB_NAME ?? DATABASE }, null);
  for (const mode of Object.values(MODES)) {
    const lock = readLock(mode);
    if (!lock || !isOurs(lock.pid, CLI_MARK) || !lock.dbPort) continue;
    const secret = readFileSync(join(paths.state, mode.instance, "secret"), "utf8").trim();
    return work(environment(lock.dbPort, secret, process.env.ITERON_DATABASE ?? lock.serves), lock.serves);
  }
  const db = await startMariadb("main", await freePortFrom(DB_PORT));
  await using(db.stop, () => work(db.env(DATABASE), null));
}
