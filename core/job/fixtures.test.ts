/**
 * Jobs as earlier releases exported them. They open, fold and export the same after
 * every later change.
 */
import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { exportEntries } from "../../profiles/job";
import { readJobFile } from "../../profiles/read";
import { jobOf } from "../../tests/support/jobs";
import { KINDS } from "../log/kinds";
import { ImportError, replay } from "./import";

const FOLDERS = ["tests/fixtures/2026-11", "tests/fixtures/2026-12"];
const paths = new Map(
  FOLDERS.flatMap((f) => readdirSync(f).map((n) => [n, `${f}/${n}`] as const)).filter(([n]) => n.startsWith("job-")),
);
const names = [...paths.keys()];
const text = (name: string) => readFileSync(paths.get(name) ?? "", "utf8");
const NOW = "2026-11-27T08:00:00Z";

describe("jobs exported by earlier releases", () => {
  it("hold every kind of entry that there is", () => {
    const kinds = new Set(names.flatMap((n) => readJobFile(text(n)).entries.map((e) => e.kind)));
    expect(Object.keys(KINDS).filter((k) => !kinds.has(k as keyof typeof KINDS))).toEqual([]);
  });

  it.each(names)("%s is read, folded and planned as it was", (name) => {
    const { documents, entries } = readJobFile(text(name));
    const job = jobOf(documents, entries);
    const { car, closed, plugged, switches, results, repairs, readings, points, strip, signed } = job.state;
    expect({
      car,
      closed,
      plugged: plugged.size,
      switches,
      results: results.size,
      repairs: repairs.map((r) => r.fault),
      readings: readings.map((r) => r.value),
      points: points.length,
      steps: strip.stepEvents.length,
      signed: signed?.value.price ?? null,
      line: job.boardLine(NOW),
    }).toMatchSnapshot();
  });

  it.each(names)("%s is the same when it is exported and read again", (name) => {
    const file = readJobFile(text(name));
    const again = readJobFile(JSON.stringify({ ...file, formatVersion: 2, entries: exportEntries(file.entries) }));
    expect(again.entries).toEqual(file.entries);
    expect(exportEntries(again.entries)).toEqual(exportEntries(file.entries));
  });

  it.each(names)("%s can be imported through the checks of today", async (name) => {
    const { documents, entries } = readJobFile(text(name));
    const job = await replay(documents, entries, "EUR", documents.others);
    expect(job.entries).toHaveLength(entries.length);
  });
});

describe("a job file that cannot be", () => {
  const file = () => JSON.parse(text("job-closed.json"));
  const read = (change: (file: { entries: { kind: string; v?: number; data: unknown }[] }) => void) => {
    const changed = file();
    change(changed);
    return () => readJobFile(JSON.stringify(changed));
  };
  const at = (kind: string, entries: { kind: string }[]) => entries.findIndex((e) => e.kind === kind);

  it("names an entry of a newer program", () => {
    expect(
      read((f) => {
        const entry = f.entries[at("connect.plug", f.entries)];
        if (entry) entry.v = 9;
      }),
    ).toThrow(/entry connect.plug, version 9: it was written by a newer Iteron/);
    expect(
      read((f) => {
        const entry = f.entries[3];
        if (entry) entry.kind = "prove.smell";
      }),
    ).toThrow(/entry prove.smell, version 1: it was written by a newer Iteron/);
  });

  it("names data that no version wrote", () => {
    expect(
      read((f) => {
        const entry = f.entries[at("connect.plug", f.entries)];
        if (entry) entry.data = { link: 7 };
      }),
    ).toThrow(/entries\[\d+\].*entry connect.plug › link/);
  });

  it("names an entry that does not belong to the documents", async () => {
    const { documents, entries } = readJobFile(text("job-closed.json"));
    const strange = entries.map((e) =>
      e.kind === "connect.plug" ? { ...e, data: { ...e.data, link: "k-ghost" } } : e,
    );
    await expect(replay(documents, strange, "EUR")).rejects.toThrow(ImportError);
  });
});
