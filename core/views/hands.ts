/** What step-by-step mode shows of a job: one thing at a time, in the order of the whole job. */
import { JOINTS, jointOf } from "../connect/joints";
import { plugPoints, wirePoints } from "../connect/plug-points";
import { stopOf } from "../job/decide";
import type { Stop } from "../job/guards/guard";
import { openFor } from "../job/guards/tried";
import type { Job } from "../job/job";
import { ribbons } from "../job/locks";
import type { Act } from "../job/order/act";
import { orderOf } from "../job/order/order";
import type { Connection } from "../job/plan";
import { openTests } from "../job/rounds";
import type { Command, JobEntry } from "../log/entry";
import { effective, kindNamed } from "../log/fold";
import { POWER_OUT_S } from "../log/kinds/configure/power-cycle";
import type { Stage } from "../log/stages";
import { findPort } from "../model/ports";
import { insteadOf, insteadWords } from "../model/sight";
import { alikeWith } from "../prove/alike";
import { roundOf } from "../prove/rounds";
import { holdsOf, stateSteps } from "../prove/state-steps";
import { testHead } from "../prove/tests";
import type { StripView } from "../strip/view";
import { connectionRow, taskRow } from "./connection-row";
import type { JobRowView } from "./overview";

/** A thing in the order, as the list has it. */
export interface HandsHead {
  key: string;
  stage: Stage;
  title: string;
  minutes: number;
  tool?: string;
}

/** An answer that is one tap. */
export interface HandsAnswer {
  say: string;
  press: Command[];
  /** What speaks against it as the car stands. */
  stop: Stop | null;
}

/** Stages that are done with the hands in the car; the rest is done at a desk. */
const AT_THE_CAR: ReadonlySet<Stage> = new Set<Stage>(["strip", "connect", "configure", "prove"]);

/** Kinds that a tap here takes back. */
const TAKEN_BACK: ReadonlySet<JobEntry["kind"]> = new Set<JobEntry["kind"]>([
  "strip.step",
  "strip.behind",
  "connect.plug",
  "connect.lock",
  "connect.task",
  "connect.laidOut",
  "configure.set",
  "configure.switches",
  "configure.powerCycle",
  "prove.result",
  "prove.codes",
]);

export type HandsView = ReturnType<typeof handsView>;
export type HandsAct = NonNullable<HandsView["act"]>;

/**
 * @param now ISO 8601, UTC
 * @param wanted key of the thing to look at; the next one when it is null or no longer there
 */
export function handsView(
  job: Job,
  { id, number, title, version }: Pick<JobRowView, "id" | "number" | "title" | "version">,
  person: { name: string; readOnly: boolean },
  now: string,
  wanted: string | null = null,
) {
  const { state } = job;
  const acts = keyed(orderOf(job, now).filter((a) => AT_THE_CAR.has(a.stage)));
  const at = Math.max(
    0,
    acts.findIndex((a) => a.key === wanted),
  );
  const strip = job.strip(now);
  const shown = acts[at];
  return {
    job: { id, number, title },
    version,
    person: person.name,
    readOnly: person.readOnly || state.closed !== null,
    now,
    order: acts.map(({ key, act }): HandsHead => {
      const tool = act.does.kind === "step" ? act.does.task.tool : undefined;
      return { key, stage: act.stage, title: act.action, minutes: act.minutes, ...(tool ? { tool } : {}) };
    }),
    at,
    act: shown ? { key: shown.key, ...actView(job, shown.act, strip, now) } : null,
    /** Done so far, in presses that count. */
    done: strip.ticks + state.plugged.size + state.results.size + state.made.size + state.tasks.size,
    last: lastDone(job, now),
    /** What the hands do next when nothing is left here. */
    next: job.next(now),
    strip: {
      car: strip.car,
      screwsOut: strip.screwsOut,
      skipped: strip.skipped.map((s) => s.id),
    },
  };
}

/** Some things have one row on their surface and come more than once. */
function keyed(acts: readonly Act[]): { key: string; act: Act }[] {
  const seen = new Map<string, number>();
  return acts.map((act) => {
    const name = `${act.stage} ${act.page ?? ""} ${act.at ?? ""}`;
    const times = (seen.get(name) ?? 0) + 1;
    seen.set(name, times);
    return { key: times === 1 ? name : `${name} ${times}`, act };
  });
}

/** What was done last and can be taken back in a tap. */
function lastDone(job: Job, now: string) {
  const last = effective(job.entries).findLast((e) => TAKEN_BACK.has(e.kind));
  if (!last) return null;
  return { entry: last.id, at: last.at, title: kindNamed(last.kind).words(last.data as never, job.facts(now)) };
}

/** One thing large: what to do, what to mind, what a tap writes. */
function actView(job: Job, act: Act, strip: StripView, now: string) {
  const { stage, action: title, why, at, page } = act;
  const what = whatOf(job, act, strip, now);
  const press = pressOf(job, act);
  return {
    stage,
    title,
    why,
    minutes: act.minutes,
    /** Where it is done with more than one tap. */
    to: `${stage}${page ? `/${page}` : ""}${at ? `?at=${encodeURIComponent(at)}` : ""}`,
    what,
    /** What “Done” writes; empty where it is done on its page. */
    press,
    done: doneWord(job, act),
    stop: press[0] ? stopBefore(job, press, now) : null,
    /** Until when a tap makes no sense, ISO 8601. */
    waitsUntil: act.does.kind === "powerCycle" && act.does.step === "in" ? afterOut(job) : null,
  };
}

function doneWord({ plan }: Job, { does }: Act): string {
  switch (does.kind) {
    case "test":
      return "Works";
    case "plug":
      return doneAtPlug(plan, does.connection);
    case "lock":
      return "Lock bar shut";
    case "bank":
      return "It stands so";
    case "codes":
      return "None stored";
    case "laidOut":
      return "Complete and labelled";
    case "step":
    case "task":
    case "setting":
    case "powerCycle":
    case "page":
      return "Done";
  }
}

function doneAtPlug({ fitted }: Job["plan"], { a, b }: Connection): string {
  const joint = jointOf([findPort(fitted, a), findPort(fitted, b)]);
  return joint ? JOINTS[joint].done : "Plugged";
}

function pressOf(job: Job, { does }: Act): Command[] {
  switch (does.kind) {
    case "step":
      return [{ kind: "strip.step", data: { step: does.task.id, direction: does.direction } }];
    case "task":
      return does.task.setting
        ? [{ kind: "configure.set", data: { setting: does.task.setting, done: true } }]
        : [{ kind: "connect.task", data: { task: does.task.id, done: true } }];
    case "plug": {
      const { link } = does.connection;
      return [
        { kind: "connect.plug", data: { link, plugged: true } },
        ...(ribbons(job.plan).has(link) ? [{ kind: "connect.lock" as const, data: { link, shut: true } }] : []),
      ];
    }
    case "lock":
      return [{ kind: "connect.lock", data: { link: does.connection.link, shut: true } }];
    case "setting":
      return [{ kind: "configure.set", data: { setting: does.set.setting, done: true } }];
    case "bank": {
      const must = job.plan.switches?.settings;
      return must ? [{ kind: "configure.switches", data: { settings: { ...must } } }] : [];
    }
    case "powerCycle":
      return [{ kind: "configure.powerCycle", data: { step: does.step } }];
    case "test":
      return [{ kind: "prove.result", data: { test: does.test.id, answer: "pass", note: "" } }];
    case "codes":
      return [{ kind: "prove.codes", data: { text: "" } }];
    case "laidOut":
      return [{ kind: "connect.laidOut", data: {} }];
    case "page":
      return [];
  }
}

/** What speaks against a press, whichever of its entries it is about. */
function stopBefore(job: Job, press: readonly Command[], at: string): Stop | null {
  const [first] = press;
  if (!first) return null;
  return stopOf(job, { id: "", command: first, at }, { name: "", role: "technician" });
}

function afterOut({ state }: Job): string | null {
  return state.powerOut && new Date(Date.parse(state.powerOut) + POWER_OUT_S * 1000).toISOString();
}

function whatOf(job: Job, { does }: Act, strip: StripView, now: string) {
  const { plan, state } = job;
  switch (does.kind) {
    case "step": {
      const { task, direction } = does;
      return {
        kind: "step" as const,
        task,
        direction,
        /** The bench test comes before it. */
        locked:
          strip.gate === "open" && strip.back.some((b) => b.id === task.id && b.behindGate) && direction === "back",
        /** Somebody has looked behind it; null where nobody has to. */
        behind: task.step?.lasting === "hole" ? state.strip.behind.has(task.id) : null,
        notes: state.strip.notes.filter((n) => n.step === task.id),
        expected: (task.step?.fasteners ?? []).map((f, group) =>
          direction === "in" ? f.count : (state.strip.counts.get(`${task.id}/${group}`)?.out ?? f.count),
        ),
        missing: missingBefore(strip, task),
      };
    }
    case "plug":
    case "lock": {
      const row = connectionRow(job, does.connection, does.kind === "plug" ? does.task : undefined);
      const connectors = row.halves.flatMap((h) => h.port.connector ?? []);
      const points = row.joint ? [...JOINTS[row.joint].points] : plugPoints(connectors, row.lock !== null);
      return {
        kind: "plug" as const,
        halves: row.halves,
        points,
        joint: row.joint,
        joined: row.joined,
        supply: row.supply,
        /** Where it fits more than one way, each with what it writes. */
        places:
          does.kind === "lock" ? [] : row.places.filter((p) => !p.planned).map((p) => placeAnswer(job, row, p, now)),
      };
    }
    case "task": {
      const row = taskRow(job, does.task);
      const wires = does.task.moves ? wirePoints(does.task.kind === "cut") : [];
      return {
        kind: "plug" as const,
        halves: row.halves,
        joint: null,
        joined: [],
        points: [does.task.why, ...wires].filter(Boolean),
        supply: row.supply,
        places: [],
      };
    }
    case "setting":
      return { kind: "words" as const, lines: does.set.where ? [`Where: ${does.set.where}`] : [] };
    case "bank": {
      const bank = plan.documents.kit.switchBank;
      const must = plan.switches?.settings ?? {};
      return {
        kind: "bank" as const,
        on: bank?.on ?? "",
        label: bank?.label ?? "",
        values: (bank?.switches ?? []).flatMap((s) => must[`${bank?.part}.${s}`] ?? []),
      };
    }
    case "powerCycle":
      return {
        kind: "words" as const,
        lines:
          does.step === "out"
            ? ["Pull the main plug of the module and leave it out for ten seconds."]
            : ["Plug it in again until it clicks."],
      };
    case "laidOut":
      return { kind: "words" as const, lines: plan.documents.kit.box };
    case "codes":
      return { kind: "words" as const, lines: ["Ignition on, engine off, tester in the diagnostic socket."] };
    case "test":
      return testView(job, does.test, does.round, strip, now);
    case "page":
      return { kind: "words" as const, lines: [] };
  }
}

function testView(job: Job, test: Job["plan"]["tests"][number], round: string, strip: StripView, now: string) {
  const { plan, state } = job;
  const last = state.tries.at(-1)?.test;
  const from = plan.tests.find((t) => t.id === last)?.situation ?? null;
  const open = openTests(plan, state, strip).flatMap((o) => (o.round === round ? [o.test] : []));
  const needs = (t: typeof test) => String(openFor(job, t).map((c) => c.link));
  const alike = alikeWith(test, open.length > 0 ? open : plan.tests.filter((t) => roundOf(t) === round)).filter(
    (t) => needs(t) === needs(test),
  );
  const result = (more: Partial<Extract<Command, { kind: "prove.result" }>["data"]>): Command => ({
    kind: "prove.result",
    data: { test: test.id, answer: "wrong", note: "", ...more },
  });
  // Whatever was there instead, the car must have stood the same way.
  const stop = stopBefore(job, [result({})], now);
  return {
    kind: "test" as const,
    ...testHead(test),
    steps: stateSteps(test, plan.fitted, from),
    holds: holdsOf(test, plan.fitted),
    alike: alike.map((t) => t.fn.name),
    all: [test, ...alike].map(
      (t): Command => ({ kind: "prove.result", data: { test: t.id, answer: "pass", note: "" } }),
    ),
    answers: [
      ...insteadOf(test.sense)
        .filter((word) => !TYPED.has(word))
        .map((seen): HandsAnswer => ({ say: insteadWords(seen), press: [result({ seen })], stop })),
      { say: "Not possible here", press: [result({ answer: "impossible" })], stop: null },
    ],
  };
}

/** Answers that want more than a tap; they are given in Prove. */
const TYPED: ReadonlySet<string> = new Set(["message", "breaksOff", "somethingElse"]);

function placeAnswer(
  job: Job,
  { link }: ReturnType<typeof connectionRow>,
  place: { port: string; name: string },
  now: string,
): HandsAnswer {
  const press: Command[] = [{ kind: "connect.plug", data: { link, plugged: true, at: place.port } }];
  return { say: `It went into: ${place.name}`, press, stop: stopBefore(job, press, now) };
}

/** Steps that must be off before one and are not. */
function missingBefore(strip: StripView, task: { id: string; step?: { after: string[] } }): string[] {
  const done = new Set(strip.done.map((d) => d.id));
  const out = strip.skipped.map((s) => s.id);
  if (strip.left.every((t) => t.id !== task.id)) return [];
  return (task.step?.after ?? [])
    .filter((id) => !done.has(id) && !out.includes(id))
    .map((id) => strip.route.plan.steps.find((s) => s.id === id)?.title ?? id);
}
