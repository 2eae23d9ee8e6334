/**
 * The library as the release of November 2026 exported it. Every document is read, and every kit is planned on its radio
 * with as many steps, plugs, settings and tests as then, after every later change.
 */
import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { rankKits } from "../core/fit/rank";
import { planJob } from "../core/job/plan";
import { readBundle, zipProfiles } from "./bundle";

const { profiles } = readBundle(readFileSync("tests/fixtures/2026-11/library.zip"));
const kits = profiles.flatMap((p) => (p.document === "kit" ? [p] : []));
const variants = profiles.flatMap((p) => (p.document === "variant" ? [p] : []));
const cars = profiles.flatMap((p) => (p.document === "car" ? [p] : []));

describe("the library exported in November 2026", () => {
  it("is read whole, and is the same when it is exported and read again", () => {
    expect([cars.length, variants.length, kits.length]).toEqual([9, 22, 25]);
    expect(readBundle(zipProfiles(profiles)).profiles).toEqual(profiles);
  });

  it.each(variants.map((v) => v.id))("plans on %s what it planned then", (id) => {
    const variant = variants.find((v) => v.id === id);
    const car = cars.find((c) => c.id === variant?.car);
    if (!variant || !car) throw new Error(`${id} has no car`);
    const offers = rankKits({ car, variant, kits, wishes: [], firmware: "" });
    const lines = offers
      .filter((o) => o.verdict.level !== "impossible")
      .map((o) => {
        const kit = kits.find((k) => k.id === o.kit);
        if (!kit) throw new Error(`no kit ${o.kit}`);
        const { steps, connections, sets, tests } = planJob({ car, variant, kit }, { choices: o.choices });
        const counts = `${steps.length} steps, ${connections.length} plugs, ${sets.length} settings, ${tests.length} tests`;
        return `${[kit.id, ...o.with].join("; ")}: ${counts}`;
      })
      .sort();
    expect(lines).toMatchSnapshot();
  });
});
