import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../../profiles/library";
import { jobOf, logOf, named } from "../../../tests/support/jobs";
import { noKit } from "../blank";
import type { OpenedWith } from "../job";
import { inOrder, orderOf } from "./order";
import { stagesLeft } from "./stages";

const NOW = "2026-01-05T12:00:00Z";
const documents = demoDocuments();
const fresh = jobOf(documents, []);
const in_ = (job: typeof fresh, steps: readonly string[]) =>
  job.with(logOf(...steps.map((step) => ({ kind: "strip.step" as const, data: { step, direction: "in" as const } }))));

describe("the order of the whole job", () => {
  const acts = orderOf(fresh, NOW);
  const at = (test: (a: (typeof acts)[number]) => boolean) => acts.findIndex(test);

  it("goes from the number of the car to the closing, and brings back everything that comes off", () => {
    expect(acts[0]?.at).toBe("car");
    expect(acts.at(-1)?.at).toBe("close");
    const steps = acts.flatMap((a) => (a.does.kind === "step" && a.does.task.step ? [a.does] : []));
    const off = steps.filter((s) => s.direction === "in" && s.task.step?.panel).map((s) => s.task.id);
    const back = steps.filter((s) => s.direction === "back").map((s) => s.task.id);
    expect(off.length).toBeGreaterThan(3);
    for (const id of off) expect(back).toContain(id);
  });

  it("does on the bench what can be done there, and tries everything before a panel goes back", () => {
    const first = at((a) => a.does.kind === "step");
    expect(at((a) => a.does.kind === "bank")).toBeLessThan(first);
    expect(at((a) => a.does.kind === "laidOut")).toBeLessThan(first);
    const lastBench = acts.findLastIndex((a) => a.does.kind === "test" && a.does.round === "bench");
    const firstBack = at((a) => a.does.kind === "step" && a.does.direction === "back");
    expect(lastBench).toBeLessThan(firstBack);
    expect(at((a) => a.does.kind === "test" && a.does.round === "closed")).toBeGreaterThan(firstBack);
  });

  it("is one and the same from wherever it is looked at: what is done is gone, the rest keeps its order", () => {
    const steps = fresh.strip(NOW).left.map((t) => t.id);
    const titles = (job: typeof fresh) =>
      orderOf(job, NOW).flatMap((a) =>
        a.does.kind === "step" && a.does.direction === "in" && a.does.task.step ? [a.action] : [],
      );
    const whole = titles(fresh);
    for (const done of [2, 5, 9]) {
      const rest = titles(in_(fresh, steps.slice(0, done))).filter((t) => whole.includes(t));
      expect(rest).toEqual(whole.slice(whole.length - rest.length));
    }
  });
});

it("tries a loosely laid kit before trim comes off that only its places need, and plugs all of it first", () => {
  const ring = named("kestrane-halden-14", "kestrane-halden-14-k1", "orvanto-om8-ring");
  const job = jobOf(ring, logOf({ kind: "fit.confirm", data: { choices: { trying: "loose" } } }));
  const acts = orderOf(job, NOW);
  const waiting = job.strip(NOW).later.map((t) => t.id);
  expect(waiting.length).toBeGreaterThan(1);
  const places = waiting.map((id) => acts.findIndex((a) => a.at === id));
  const benchTests = acts.flatMap((a, i) => (a.does.kind === "test" && a.does.round === "bench" ? [i] : []));
  const plugs = acts.flatMap((a, i) => (a.does.kind === "plug" ? [i] : []));
  const back = acts.findIndex((a) => a.does.kind === "step" && a.does.direction === "back");
  expect(Math.max(...plugs)).toBeLessThan(Math.min(...benchTests));
  expect(Math.min(...places)).toBeGreaterThan(Math.max(...benchTests));
  expect(back).toBeGreaterThan(Math.max(...places));
  const returned = acts.flatMap((a) => (a.does.kind === "step" && a.does.direction === "back" ? [a.does.task.id] : []));
  expect(returned).toEqual(expect.arrayContaining(waiting));
});

it("is the order of the rows of a surface, behind those that are done and before those that it does not have", () => {
  const rows = [...fresh.plan.connections].reverse().map((c) => c.link);
  const [done = ""] = rows.slice(3);
  const job = fresh.with(logOf({ kind: "connect.plug", data: { link: done, plugged: true } }));
  const listed = inOrder(job, NOW, ["never", ...rows], (at) => ({ at, done: at === done }));
  const acts = orderOf(job, NOW).map((a) => a.at ?? "");
  const places = listed.slice(1).flatMap((link) => (acts.includes(link) ? [acts.indexOf(link)] : []));
  expect(listed[0]).toBe(done);
  expect(places.length).toBeGreaterThan(5);
  expect(places).toEqual(places.toSorted((a, b) => a - b));
  expect(listed.indexOf("never")).toBeGreaterThan(places.length);
});

describe("the ticks of the stages", () => {
  it("are not given before a kit says what there is to do", () => {
    const none = jobOf({ ...documents, kit: noKit() }, []);
    expect(stagesLeft(none, NOW)).toMatchObject({
      strip: "later",
      connect: "later",
      configure: "later",
      prove: "later",
    });
  });

  it("come to Strip only when everything is back", () => {
    const open = in_(
      fresh,
      fresh.strip(NOW).left.map((t) => t.id),
    );
    expect(open.strip(NOW).left).toEqual([]);
    expect(stagesLeft(open, NOW).strip).toBeGreaterThan(3);
    expect(stagesLeft(open, NOW).bus).toBeNull();
  });
});

it("has the firmware read before the first panel where the kit asks for one, once: or said that it is not shown", () => {
  const asked = { ...documents, kit: { ...documents.kit, firmwareFloors: [{ atLeast: "R2 9.00" }] } } as OpenedWith;
  const reads = (...more: Parameters<typeof logOf>) =>
    orderOf(jobOf(asked, logOf(...more)), NOW).findIndex((a) => a.action === "Read the firmware of the radio");
  const acts = orderOf(jobOf(asked, []), NOW);
  expect(reads()).toBeGreaterThan(0);
  expect(reads()).toBeLessThan(acts.findIndex((a) => a.does.kind === "step"));
  expect(reads({ kind: "intake.unread", data: { what: "firmware", reason: "no version screen" } })).toBe(-1);
  expect(orderOf(fresh, NOW).some((a) => a.action === "Read the firmware of the radio")).toBe(
    documents.kit.firmwareFloors.length > 0,
  );
});
