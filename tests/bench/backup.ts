/** A backup of twenty thousand jobs while people read pages: how long it takes, and what the pages notice of it. */
import { spawn } from "node:child_process";
import { once } from "node:events";
import { rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import mysql from "mysql2/promise";
import { createShop } from "../../db/accounts";
import { verifyBackup } from "../../db/backup";
import { connectionFromEnvironment, Database } from "../../db/database";
import { newId } from "../../db/ids";
import { createJob, listJobs } from "../../db/jobs";
import { migrate, migrationsIn } from "../../db/migrate";
import { saveProfile } from "../../db/profiles";
import { demoDocuments } from "../../profiles/library";

const JOBS = 20_000;
const ENTRIES = 60;
const PHOTO_BYTES = 60_000;
/** One job in ten has a photo: 120 MB of them. */
const PHOTO_EVERY = 10;

const folder = process.argv[2] ?? "db/migrations";
const options = { ...connectionFromEnvironment(process.env), database: "iteron_bench_backup" };
const sql = await mysql.createConnection({ ...options, database: undefined, multipleStatements: true });
await sql.query(
  `DROP DATABASE IF EXISTS ${options.database}; CREATE DATABASE ${options.database} CHARACTER SET utf8mb4`,
);
const migrations = await migrationsIn(folder);
await migrate(options, folder);
const db = new Database(options);
const shop = newId();
await createShop(db, shop, "Bench");
const { car, variant, kit } = demoDocuments();
const [carProfile, variantProfile, kitProfile] = [
  (await saveProfile(db, shop, car, "Bench")).id,
  (await saveProfile(db, shop, variant, "Bench")).id,
  (await saveProfile(db, shop, kit, "Bench")).id,
];
const line = { stage: "intake", nextAction: "", kit: { slug: "", title: "" }, variantSlug: "", carSlug: "" };
const first = newId();
await createJob(db, {
  id: first,
  shopId: shop,
  title: "Job",
  customer: "",
  carProfile,
  variantProfile,
  kitProfile,
  createdAt: new Date(),
  line,
});
await sql.query(`USE ${options.database}`);
// The rest by the database itself.
await sql.query(
  `INSERT INTO job (id, shop_id, number, title, customer, car_profile, variant_profile, kit_profile, stage, next_action, kit_title, kit_slug, variant_slug, car_slug, version, created_at)
   SELECT UUID(), shop_id, 1000 + seq, CONCAT('Job ', seq), '', car_profile, variant_profile, kit_profile, stage, next_action, kit_title, kit_slug, variant_slug, car_slug, ${ENTRIES}, created_at
   FROM job, seq_1_to_${JOBS - 1}`,
);
await sql.query(
  `INSERT INTO job_entry (id, shop_id, job_id, position, at, by_name, kind, version, data)
   SELECT UUID(), j.shop_id, j.id, s.seq, NOW(3), 'Bench', 'handover.point', 1, CONCAT('{"text":"What the customer must know of ', j.number, ', number ', s.seq, '"}')
   FROM job j, seq_1_to_${ENTRIES} s`,
);
await sql.query(
  `INSERT INTO file_content (id, shop_id, created_at) SELECT j.id, j.shop_id, NOW(3) FROM job j WHERE j.number % ${PHOTO_EVERY} = 0;
   INSERT INTO job_chunk (content_id, position, shop_id, data)
     SELECT j.id, 0, j.shop_id, RANDOM_BYTES(1024) FROM job j WHERE j.number % ${PHOTO_EVERY} = 0`,
);
// Bytes that cannot be compressed, as those of photos.
await sql.query(
  `UPDATE job_chunk SET data = CONCAT(${Array(PHOTO_BYTES / 1000)
    .fill("RANDOM_BYTES(1000)")
    .join(", ")})`,
);

/** 95th percentile of the time that reading the board takes, as long as somebody works. */
async function pageMs(whileOf: Promise<unknown>): Promise<number> {
  let done = false;
  whileOf.then(
    () => {
      done = true;
    },
    () => {
      done = true;
    },
  );
  const times: number[] = [];
  while (!done) {
    const begun = performance.now();
    await listJobs(db, shop);
    times.push(performance.now() - begun);
    await new Promise((r) => setTimeout(r, 20));
  }
  return times.sort((a, b) => a - b)[Math.floor(0.95 * times.length)] ?? 0;
}

const say = (what: object) => console.log(JSON.stringify(what));
const quiet = await pageMs(new Promise((r) => setTimeout(r, 8000)));
const file = join(tmpdir(), `iteron-bench-${process.pid}.backup`);
const begun = performance.now();
const child = spawn(process.execPath, ["--import", "tsx", "cli/backup.ts", "backup", file], {
  env: { ...process.env, ITERON_DB_NAME: options.database },
  stdio: "ignore",
});
const busy = await pageMs(once(child, "close"));
const seconds = (performance.now() - begun) / 1000;
const { dump } = await verifyBackup(file, migrations);
say({
  case: `backup of ${JOBS} jobs, ${JOBS * ENTRIES} entries, ${JOBS / PHOTO_EVERY} photos`,
  value: seconds,
  unit: "s",
  note: `aim: at most 60; ${Math.round(dump.plainBytes / 1e6)} MB of dump, ${Math.round(statSync(file).size / 1e6)} MB of file`,
});
say({
  case: "95th percentile of reading the board meanwhile",
  value: busy,
  unit: "ms",
  peer: "without a backup",
  peerValue: quiet,
  ratio: busy / quiet,
  note: "aim: at most 2",
});
rmSync(file);
await sql.query(`DROP DATABASE ${options.database}`);
await sql.end();
await db.close();
