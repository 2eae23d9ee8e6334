import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { readJobFile } from "../../profiles/read";
import { jobOf } from "../../tests/support/jobs";
import { decide } from "../job/decide";
import type { Command, JobEntry } from "../log/entry";
import { kindNamed } from "../log/fold";
import { connectView } from "../views/connect";
import { handoverView } from "../views/handover";
import { handsView } from "../views/hands";
import { proveView } from "../views/prove";
import { stripSurface } from "../views/strip";
import { jobOnDevice } from "./job-on-device";
import { documentsOf, KEPT_FORMAT, type KeptJob, mergeKept, readKeptJob } from "./kept-job";
import type { Waiting } from "./outbox";

const file = readJobFile(readFileSync("tests/fixtures/2026-11/job-waiting.json", "utf8"));
const closed = readJobFile(readFileSync("tests/fixtures/2026-11/job-closed.json", "utf8"));
const NOW = "2026-11-27T08:00:00Z";

function kept({ documents }: typeof file, entries: readonly JobEntry[]): KeptJob {
  const { car, variant, kit } = documents;
  return {
    format: KEPT_FORMAT,
    row: {
      id: "j",
      number: 1,
      title: "Job",
      customer: "C",
      version: entries.length,
      importedBy: null,
      practice: false,
    },
    opened: { car, variant, kit },
    others: [variant, kit].flatMap((d) => d ?? []),
    entries: [...entries],
    currency: "EUR",
    wishes: [],
    person: "Ada",
    role: "technician",
    readOnly: false,
    measured: {},
  };
}

/** An entry as it waits on a device: what was asked for, without what the job computes. */
function waiting({ id, kind, data, at, by }: JobEntry): Waiting {
  const asked = kindNamed(kind).asked?.(data) ?? data;
  return { id, body: { kind, data: asked } as Command, at, by, tick: 0, session: "s" };
}

describe("a job on a device", () => {
  it.each([0.3, 0.6, 0.9])("is the job of the server, whatever part of its log still waits there (%d)", (part) => {
    const n = Math.floor(closed.entries.length * part);
    const [sent, rest] = [
      closed.entries.slice(0, n),
      closed.entries
        .slice(n)
        .filter((e) => e.kind !== "bus.file")
        .map(waiting),
    ];
    const device = jobOnDevice(kept(closed, sent), rest);
    // What the server makes of the same presses, one after the other; some of that old log it would refuse today.
    let server = jobOf(closed.documents, sent);
    for (const { id, body, at, by } of rest) {
      const decision = decide(server, [{ id, command: body, at }], { name: by, role: "technician" });
      if (decision.kind === "written") server = decision.after;
    }
    expect(device.entries).toEqual(server.entries);
    expect(device.entries.length).toBeGreaterThan(n + 0.3 * rest.length);
    expect(connectView(device, [], NOW, null, {})).toEqual(connectView(server, [], NOW, null, {}));
    expect(proveView(device, NOW)).toEqual(proveView(server, NOW));
    expect(handoverView(device, NOW)).toEqual(handoverView(server, NOW));
    expect(stripSurface(device, {}, NOW)).toEqual(stripSurface(server, {}, NOW));
    const { row } = kept(closed, sent);
    const hands = (job: typeof device) => handsView(job, row, { name: "Ada", readOnly: false }, NOW);
    expect(hands(device)).toEqual(hands(server));
  });

  it("leaves out what the server has refused, what it has already, and what does not go with the log", () => {
    const [first] = file.entries;
    if (!first) throw new Error("an empty log");
    const ghost: Waiting = {
      ...waiting(first),
      id: "ghost",
      body: { kind: "connect.plug", data: { link: "k-ghost", plugged: true } },
    };
    const point: Waiting = { ...ghost, id: "point", body: { kind: "handover.point", data: { text: "Said" } } };
    const refused = { ...point, id: "refused", refused: "closed" };
    const device = jobOnDevice(kept(file, file.entries), [waiting(first), ghost, refused, point]);
    expect(device.entries.map((e) => e.id)).toEqual([...file.entries.map((e) => e.id), "point"]);
  });
});

describe("the copy of a device", () => {
  const copy = kept(file, file.entries.slice(0, 2));

  it("keeps its documents when the server sends the log alone", () => {
    const { opened: _, others: __, wishes: ___, ...news } = kept(file, file.entries);
    const merged = mergeKept(copy, news);
    expect(merged?.entries).toHaveLength(file.entries.length);
    expect(merged?.opened).toBe(copy.opened);
    expect(mergeKept(null, news)).toBeNull();
    expect(mergeKept(null, copy)).toBe(copy);
  });

  it("is known by its documents and their versions", () => {
    const { car, ...rest } = copy.opened;
    expect(documentsOf(copy)).toBe(documentsOf(kept(file, [])));
    expect(documentsOf({ ...copy, opened: { ...rest, car: { ...car, version: 99 } } })).not.toBe(documentsOf(copy));
    expect(documentsOf({ ...copy, others: [] })).not.toBe(documentsOf(copy));
  });

  it("is read only in the form of this program", () => {
    expect(readKeptJob(copy)).toBe(copy);
    for (const strange of [null, undefined, "x", {}, { ...copy, format: 99 }]) expect(readKeptJob(strange)).toBeNull();
  });
});
