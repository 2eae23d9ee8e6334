/** Search of a library of 5,000 profiles in a real MariaDB, word by word as it is typed. */
import { randomUUID } from "node:crypto";
import mysql from "mysql2/promise";
import { createShop } from "../../db/accounts";
import { connectionFromEnvironment, Database } from "../../db/database";
import { migrate } from "../../db/migrate";
import { type ProfileQuery, saveProfile, searchProfiles } from "../../db/profiles";
import { shippedLibrary } from "../../profiles/library";
import { report } from "./report";

const PROFILES = 5000;
const SEARCHES = 400;
const options = connectionFromEnvironment(process.env);
const bare = await mysql.createConnection({ ...options, database: undefined });
await bare.query(`DROP DATABASE IF EXISTS ${options.database}`);
await bare.query(`CREATE DATABASE ${options.database} CHARACTER SET utf8mb4`);
await bare.end();
await migrate(options, "db/migrations");
const db = new Database(options);
const shop = randomUUID();
await createShop(db, shop, "Bench");
const library = shippedLibrary();
const NAMES = ["alder", "birch", "cedar", "dogwood", "elm", "fir", "gorse", "hazel", "ivy", "juniper"];
for (let at = 0; at < PROFILES; at += 100) {
  await db.transaction(async (sql) => {
    for (let i = at; i < at + 100; i++) {
      const profile = library[i % library.length];
      if (!profile) continue;
      const name = `${NAMES[i % 10]} ${NAMES[Math.floor(i / 10) % 10]} ${i}`;
      await saveProfile(
        sql,
        shop,
        { ...profile, id: `${profile.id}-${i}`, title: `${profile.title} ${name}` },
        "Bench",
      );
    }
  });
}

const nothing: ProfileQuery = { text: "", kind: "", connector: "", ways: "", year: "", country: "", screen: "" };
const typed = (text: string) => [...text].map((_, i): ProfileQuery => ({ ...nothing, text: text.slice(0, i + 1) }));
const queries: ProfileQuery[] = [
  nothing,
  ...typed("orvanto birch"),
  ...typed("radio 10"),
  ...typed("interface camera elm"),
  { ...nothing, kind: "kit", connector: "coded", ways: "4" },
  { ...nothing, kind: "car", year: "2017", country: "NO" },
  { ...nothing, screen: "1024x600", text: "hazel" },
];
const times: number[] = [];
for (let i = 0; i < SEARCHES; i++) {
  const query = queries[i % queries.length] ?? nothing;
  const start = performance.now();
  await searchProfiles(db, shop, query);
  times.push(performance.now() - start);
}
times.sort((a, b) => a - b);
report({ case: `library search at ${PROFILES} profiles, median`, value: times[times.length >> 1] ?? 0, unit: "ms" });
report({
  case: `library search at ${PROFILES} profiles, 95th percentile`,
  value: times[Math.floor(0.95 * times.length)] ?? 0,
  unit: "ms",
  note: "aim: under 50",
});
await db.close();
