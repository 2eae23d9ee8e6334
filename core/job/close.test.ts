/** Closing, at the end of jobs that were done as their order says, and of such with one thing left out. */
import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { jobOf, named, TEST } from "../../tests/support/jobs";
import { wholeJob } from "../../tests/support/whole-job";
import { offerOf } from "../fit/offer";
import type { Command, JobEntry } from "../log/entry";
import { decide } from "./decide";
import type { Person } from "./guards/guard";
import type { Job, OpenedWith } from "./job";
import { openPoints } from "./report";

const demo = demoDocuments();
const WORKER: Person = { name: "Tomas", role: "technician" };
const done = wholeJob(demo);

const open = (job: Job, now = done.now) =>
  openPoints(job, now)
    .filter((p) => p.level !== "told" && p.accepted === null)
    .map((p) => p.text);
const press = (job: Job, command: Command, who = TEST, now = done.now) =>
  decide(job, [{ id: `x${job.entries.length}`, command, at: now }], who);
const close = (job: Job, as: "ready" | "unfinished" = "ready", now = done.now) =>
  press(job, { kind: "handover.close", data: { as } } as Command, TEST, now);
/** The lead gives a reason for each point that may stay open. */
const accepted = (job: Job, now = done.now): Job =>
  openPoints(job, now)
    .filter((p) => p.level === "reason")
    .reduce((j, { id, text }) => {
      const said = press(
        j,
        { kind: "handover.accept", data: { point: id, text, reason: "agreed" } } as Command,
        TEST,
        now,
      );
      if (said.kind !== "written") throw new Error(JSON.stringify(said));
      return said.after;
    }, job);
const without = (job: Job, left: (e: JobEntry, i: number) => boolean) =>
  jobOf(
    job.opened,
    job.entries.filter((e, i) => !left(e, i)),
  );

/** What is not known to be open where a single entry of it is missing: it was said again later, or brings nothing along. */
const SAID_AGAIN: Partial<Record<JobEntry["kind"], string>> = {
  "strip.stands": "how key and selector stand is said again before the next test",
  "connect.laidOut": "laying out finds what is missing; what is missing is not plugged",
  "fit.confirm": "the customer has signed the same choices",
};

describe("a job that was done as its order says", () => {
  it("leaves open what its documents say, and is closed as ready with the lead's reason for it", () => {
    expect(open(done.job)).toEqual(["Too short for their way: USB lead."]);
    expect(close(done.job)).toMatchObject({ kind: "refused", stop: { answer: "refused" } });
    const ready = close(accepted(done.job));
    expect(ready).toMatchObject({ kind: "written", after: { state: { closed: { as: "ready" } } } });
    expect(close(accepted(done.job), "unfinished").kind).toBe("refused");
  });

  it("is not closed for the lead by somebody else", () => {
    const [point] = openPoints(done.job, done.now);
    const said = { kind: "handover.accept", data: { point: point?.id, text: point?.text, reason: "late" } } as Command;
    expect(press(done.job, said, WORKER)).toMatchObject({ kind: "refused", stop: { guard: "right" } });
  });

  it("names what was left out of it, whichever entry that is", () => {
    const usual = new Set(open(done.job));
    const silent = done.job.entries.flatMap((e, i) => {
      const job = without(done.job, (_, j) => j === i);
      if (open(job).some((text) => !usual.has(text)) || e.kind in SAID_AGAIN) return [];
      // The way in is told by the way back; a test that is tried again after closing by the second try.
      if (e.kind === "strip.step" && e.data.direction === "in" && job.strip(done.now).car.battery === "connected")
        return [];
      if (e.kind === "prove.result")
        return job.state.results.get(e.data.test)?.value === "pass" ? [] : [`result ${e.data.test}`];
      if (e.kind === "connect.plug" && /^(k-phone|loom|camera|antenna)/.test(e.data.link)) return [];
      return [`${e.kind} ${JSON.stringify(e.data)}`];
    });
    expect(silent).toEqual([]);
  });

  it("names a lead that came out again, a bank that stands otherwise and a panel that was opened once more", () => {
    const [antenna, radio] = ["k-antenna", "radio-out"];
    const then = (...commands: Command[]) =>
      commands.reduce((job, command) => {
        const said = press(job, command);
        const stop = said.kind === "refused" ? said.stop : undefined;
        const again =
          stop?.answer === "asks" ? [...stop.first, command].reduce((j, c) => j.with(entry(j, c)), job) : null;
        if (said.kind !== "written" && !again) throw new Error(JSON.stringify(said));
        return said.kind === "written" ? said.after : (again ?? job);
      }, done.job);
    const entry = (j: Job, command: Command) => [
      { ...command, id: `y${j.entries.length}`, at: done.now, by: "Test" } as JobEntry,
    ];
    expect(open(then({ kind: "connect.plug", data: { link: antenna, plugged: false } }))).toContainEqual(
      expect.stringMatching(/^Not plugged: .*antenna/i),
    );
    const bank = { ...done.job.plan.settings };
    const [first = ""] = Object.keys(bank);
    const turned = { ...bank, [first]: bank[first] === "on" ? "off" : "on" };
    expect(open(then({ kind: "configure.switches", data: { settings: turned } }))).toContainEqual(
      expect.stringMatching(/^Switch bank: switch \d stands/),
    );
    const reopened = then({ kind: "strip.step", data: { step: radio, direction: "in" } });
    expect(open(reopened).join(" ")).toMatch(/Still off|fasteners? (is|are) still out|plugs? (is|are) still open/);
    expect(close(accepted(reopened)).kind).toBe("refused");
  });
});

describe("a job that was changed after its tests", () => {
  const { entries } = done.job;
  const plugs = entries.filter((e) => e.kind === "connect.plug");

  it("names the tests that a plug carried which was moved since", () => {
    const moved = plugs.find((e) => e.kind === "connect.plug" && e.data.link === "k-antenna");
    if (moved?.kind !== "connect.plug") throw new Error("no antenna");
    const again = (plugged: boolean, i: number) =>
      ({ ...moved, id: `again${i}`, at: done.now, data: { ...moved.data, plugged } }) as JobEntry;
    const job = jobOf(demo, [...entries, again(false, 0), again(true, 1)]);
    const usual = new Set(open(done.job));
    const more = open(job).filter((t) => !usual.has(t));
    expect(more).toEqual([expect.stringMatching(/^Not tried again since it was changed: /)]);
  });

  it("says nothing of a bank that was entered again as it was", () => {
    const bank = entries.findLast((e) => e.kind === "configure.switches");
    if (bank?.kind !== "configure.switches") throw new Error("no bank");
    const same = { ...bank, id: "same", at: done.now, data: { ...bank.data, before: bank.data.settings } } as JobEntry;
    expect(open(jobOf(demo, [...entries, same]))).toEqual(open(done.job));
  });

  it("is not closed under the maintainer or while it rolls, without a tap that says otherwise", () => {
    const ready = accepted(done.job);
    const on = press(ready, { kind: "strip.maintainer", data: { connected: true } });
    if (on.kind !== "written") throw new Error(JSON.stringify(on));
    expect(close(on.after)).toMatchObject({ kind: "refused", stop: { answer: "asks" } });
  });
});

describe("a job that stops on the way", () => {
  it("is never closed as ready before its last test, with whatever reasons", () => {
    const { entries } = done.job;
    const lastTest = entries.findLastIndex((e) => e.kind === "prove.codes");
    const closed = entries.flatMap((e, i) => {
      if (i > lastTest) return [];
      const stopped = jobOf(demo, entries.slice(0, i));
      const now = entries[Math.max(0, i - 1)]?.at ?? "";
      return close(accepted(stopped, now), "ready", now).kind === "written" ? [`before ${e.kind}, entry ${i}`] : [];
    });
    expect(closed).toEqual([]);
  });
});

describe("a car that must leave unfinished", () => {
  const middle = jobOf(demo, done.job.entries.slice(0, Math.floor(done.job.entries.length / 2)));
  const at = middle.entries.at(-1)?.at ?? "";

  it("goes with a reason, under its own word, never as ready", () => {
    expect(close(accepted(middle, at), "ready", at).kind).toBe("refused");
    expect(close(middle, "unfinished", at)).toMatchObject({ kind: "refused", stop: { answer: "reason" } });
  });
});

describe("other jobs", () => {
  const library = shippedLibrary();
  const BOARD = named("hollinby-marrow-17", "hollinby-marrow-17-m1", "pellimar-inlay-5");
  const UNKNOWN = { givenUp: [], car: { firmware: "" }, placed: new Map(), baseline: new Map() };

  /** One job for each kind of work of the library, on the last radio that its last kit fits. */
  const kinds = new Map<string, OpenedWith>();
  for (const kit of library)
    for (const variant of library) {
      const car = library.find((p) => p.document === "car" && variant.id.startsWith(`${p.id}-`));
      if (kit.document !== "kit" || variant.document !== "variant" || car?.document !== "car") continue;
      const opened = { car, variant, kit };
      if (offerOf(opened, UNKNOWN, {}, []).verdict.level !== "impossible") kinds.set(kit.work, opened);
    }

  it.each([
    ["the battery off before the first plug", BOARD, { battery: "off" }],
    ["the upper dash closed early", BOARD, { closing: "upperEarly" }],
    ["laid loosely and tried first", BOARD, { trying: "loose" }],
    ...[...kinds].map(([work, opened]) => [work, opened, {}] as const),
  ] as const)("come to their end by their order as well: %s", (_, opened, choices) => {
    const { job, now } = wholeJob(opened, choices);
    expect(openPoints(job, now).filter((p) => p.level === "blocks")).toEqual([]);
    expect(close(accepted(job, now), "ready", now).kind).toBe("written");
  });
});
