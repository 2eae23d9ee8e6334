import { describe, expect, it } from "vitest";
import { candump } from "../core/bus/formats/candump";
import { readAs } from "../core/bus/formats/format";
import { evidenceOf } from "../core/coding/evidence";
import { type CodedUnit, type CodingMap, codedWords } from "../core/coding/map";
import { checkWord, withFields } from "../core/coding/word";
import { askUnit } from "../core/diagnostics/ask";
import { type Bench, clearCodes, readWords, scanUnit, writeWord } from "../core/diagnostics/procedures";
import { type TimedFrame, transcriptLog } from "../core/diagnostics/transcript";
import { codingPlan } from "../core/job/coding";
import { planJob } from "../core/job/plan";
import { shippedLibrary } from "../profiles/library";
import { jobOf } from "../tests/support/jobs";
import { StandInAdapter } from "./adapter";
import { standInCar } from "./bench";
import { newUnits, restarted, type UnitFault, wordsOf } from "./control-units";
import { standInKey } from "./key-rule";

const library = shippedLibrary();
const sister = pick("kestrane-fjell-11-f1", "kestrane-sister-s4", "kestrane-fjell-11-words");

function pick(variantId: string, kitId: string, mapId: string) {
  const [variant, kit, map] = [variantId, kitId, mapId].map((id) => library.find((p) => p.id === id));
  const car = library.find((p) => variant?.document === "variant" && p.id === variant.car);
  if (
    car?.document !== "car" ||
    variant?.document !== "variant" ||
    kit?.document !== "kit" ||
    map?.document !== "coding"
  )
    throw new Error(kitId);
  return { car, variant, kit, map };
}

/** A car in which everything is plugged, and somebody who talks to it. */
function session(docs = sister, seed = 7) {
  const { map } = docs;
  const plan = planJob(docs, { choices: null });
  const job = jobOf(docs);
  const state = { ...job.state, plugged: new Set(plan.connections.map((c) => c.link)), tapLit: true };
  const car = standInCar(plan, state, null, map);
  const adapter = new StandInAdapter(car, newUnits(car, seed));
  const frames: TimedFrame[] = [];
  const unit = (id: string): CodedUnit => map.units.find((u) => u.id === id) ?? (null as never);
  const bench = (id: string, more: Partial<Bench> = {}): Bench => ({
    ask: (request) => askUnit(adapter, unit(id), request, (f) => frames.push(f)),
    volts: () => adapter.volts(),
    cancelled: () => false,
    key: standInKey,
    ...more,
  });
  const evidence = () => evidenceOf(map, readAs(candump, Buffer.from(transcriptLog(frames, 1_700_000_000))).frames);
  const words = () => wordsOf(car, adapter.units);
  const write = (ref: string, after: readonly number[], more: Partial<Bench> = {}) => {
    const w = wordOf(map, ref);
    const access = w.unit.access;
    return writeWord(bench(w.unit.id, more), {
      identifier: w.word.identifier,
      before: words().get(ref) ?? [],
      after,
      ...(access === undefined ? {} : { access }),
    });
  };
  return { map, plan, car, adapter, frames, bench, evidence, words, write };
}

function wordOf(map: CodingMap, ref: string) {
  return codedWords(map).find((w) => w.ref === ref) ?? (null as never);
}

function turned(map: CodingMap, ref: string, bytes: readonly number[], field: string, raw: number): number[] {
  const { word, places } = wordOf(map, ref);
  return withFields(word, bytes, new Map([[places.find((p) => p.field.id === field)?.field as never, raw]]));
}

describe("the control units of the stand-in car", () => {
  it("are the same for the same seed, and every word fits its map", () => {
    const a = session();
    expect(session().adapter.units).toEqual(a.adapter.units);
    expect(session(sister, 8).adapter.units).not.toEqual(a.adapter.units);
    for (const { ref, word } of codedWords(a.map))
      expect(() => checkWord(word, a.words().get(ref) ?? [])).not.toThrow();
  });

  it("are found by a scan, but a radio that the gateway does not list is not", async () => {
    const s = session();
    const found: Record<string, string> = {};
    for (const { id } of s.map.units) found[id] = await scanUnit(s.bench(id));
    expect(found).toEqual({
      gateway: "answered",
      radio: "silent",
      cluster: "answered",
      climate: "answered",
      airbag: "answered",
      brakes: "answered",
    });
    const { units } = s.evidence();
    expect(units.find((u) => u.unit === "gateway")).toMatchObject({ answered: true, part: "ST710-GATE" });
    expect(units.find((u) => u.unit === "radio")).toMatchObject({ answered: false, codes: null });
  });

  it("are asked once more where one misses the first question, and no more than that", async () => {
    const s = session();
    const deaf = (unit: string, misses: number) => {
      const bench = s.bench(unit);
      let asked = 0;
      const ask: Bench["ask"] = (r) =>
        asked++ < misses ? Promise.resolve({ kind: "silence" as const }) : bench.ask(r);
      return { bench: { ...bench, ask }, asked: () => asked };
    };
    expect(await scanUnit(deaf("gateway", 1).bench)).toBe("answered");
    const gone = deaf("gateway", 9);
    expect(await scanUnit(gone.bench)).toBe("silent");
    expect(gone.asked()).toBe(2);
    expect(await scanUnit({ ...deaf("gateway", 9).bench, cancelled: () => true })).toBe("cancelled");
  });

  it("answer on 29-bit identifiers and with extended addressing, one frame or several", async () => {
    const s = session(pick("hollinby-dunlin-16-l1", "hollinby-level-4", "hollinby-dunlin-16-words"));
    const seats = s.map.units.find((u) => u.node);
    for (const { id } of s.map.units.filter((u) => !u.listed))
      expect([id, await scanUnit(s.bench(id))]).toEqual([id, "answered"]);
    const asked = s.frames.filter((f) => f.id === seats?.request);
    const answers = s.frames.filter((f) => f.id === seats?.answer);
    expect(asked.every((f) => f.extended && f.data[0] === seats?.node?.unit)).toBe(true);
    expect(answers.every((f) => f.extended && f.data[0] === seats?.node?.tester)).toBe(true);
    expect(answers.some((f) => (f.data[1] ?? 0) >> 4 === 1)).toBe(true);
    const stages = s.words().get("seats.stages") ?? [];
    const after = turned(s.map, "seats.stages", stages, "front", 2);
    expect(await s.write("seats.stages", after)).toEqual({ kind: "done" });
    expect(s.evidence().words).toContainEqual(
      expect.objectContaining({ word: "seats.stages", how: "written", bytes: after }),
    );
  });

  it("go through the whole job: listed, read, the code predicted, provoked, cured", async () => {
    const s = session();
    const list = s.words().get("gateway.list") ?? [];
    expect(await s.write("gateway.list", turned(s.map, "gateway.list", list, "radio", 1))).toEqual({ kind: "done" });
    expect(await scanUnit(s.bench("radio"), true)).toBe("answered");
    // It knows the codes of its monitors, and what it keeps beside a stored one is read.
    const radio = s.evidence().units.find((u) => u.unit === "radio");
    expect(radio?.supported).toEqual(expect.arrayContaining(s.car.known("radio")));
    expect(radio?.codes?.find((c) => c.code === "B1A15")?.records).toBe("01 01 02 05");
    const predicted = codingPlan(s.plan, s.map, s.words());
    expect(predicted.codesNow?.map((c) => c.code)).toEqual(["B1A15"]);
    expect(
      s
        .evidence()
        .units.find((u) => u.unit === "radio")
        ?.codes?.map((c) => c.code),
    ).toContain("B1A15");
    for (const change of predicted.changes) expect(await s.write(change.word, change.after)).toEqual({ kind: "done" });
    expect(codingPlan(s.plan, s.map, s.words()).changes).toEqual([]);
    expect(await clearCodes(s.bench("radio"))).toEqual({ kind: "done" });
    expect(s.evidence().units.find((u) => u.unit === "radio")).toMatchObject({ codes: [], cleared: true });
    expect(s.evidence().words.map((w) => [w.word, w.how])).toContainEqual(["radio.sound", "written"]);
  });

  it("want a key where the map says so, and refuse a wrong one", async () => {
    const s = session();
    const menu = s.words().get("cluster.menu") ?? [];
    const after = turned(s.map, "cluster.menu", menu, "radioText", 1 - ((menu[0] ?? 0) >> 7));
    const wrong = await s.write("cluster.menu", after, { key: () => [1, 2] });
    expect(wrong).toMatchObject({ kind: "failed", say: "The key was wrong." });
    expect(await s.write("cluster.menu", after, { key: () => null })).toMatchObject({
      say: expect.stringContaining("no rule"),
    });
    expect(s.words().get("cluster.menu")).toEqual(menu);
    expect(await s.write("cluster.menu", after)).toEqual({ kind: "done" });
    expect(s.words().get("cluster.menu")).toEqual(after);
  });

  it("are written only with a known supply, and keep their memories quiet meanwhile", async () => {
    const s = session();
    const before = s.words().get("gateway.bus") ?? [];
    const after = before.map((b) => b ^ 4);
    const blind = await s.write("gateway.bus", after, { volts: async () => null });
    expect(blind).toMatchObject({
      say: "The supply is not known.",
      stands: expect.stringContaining("Nothing was written"),
    });
    expect(s.words().get("gateway.bus")).toEqual(before);
    s.frames.length = 0;
    expect(await s.write("gateway.bus", after)).toEqual({ kind: "done" });
    const services = s.frames.filter((f) => f.id === 0x710 && (f.data[0] ?? 0) >> 4 === 0).map((f) => f.data[1]);
    expect(services).toEqual([0x10, 0x22, 0x85, 0x2e, 0x22, 0x85, 0x10]);
  });

  it("never let a unit for safety be written", async () => {
    const s = session();
    const ended = await writeWord(s.bench("airbag"), { identifier: 0x0600, before: [1], after: [2] });
    expect(ended).toMatchObject({ kind: "failed", stands: expect.stringContaining("Nothing was written") });
  });

  it.each<[UnitFault, string, string, "same" | "half" | "new"]>([
    ["refuses", "The conditions are not right.", "Nothing was written", "same"],
    ["rejectsChecksum", "does not allow this value", "Nothing was written", "same"],
    ["losesSupply", "does not answer", "is not known", "half"],
    ["slow", "", "", "new"],
  ])("with the fault “%s” end in a known state", async (fault, say, stands, how) => {
    const s = session();
    const before = s.words().get("gateway.bus") ?? [];
    const after = [...before].map((b) => b ^ 4);
    s.adapter.units = { ...s.adapter.units, fault };
    const ended = await s.write("gateway.bus", after);
    if (how === "new") expect(ended).toEqual({ kind: "done" });
    else {
      expect(ended.kind === "failed" && ended.say).toContain(say);
      expect(ended.kind === "failed" && ended.stands).toContain(stands);
    }
    const now = s.words().get("gateway.bus");
    if (how === "same") expect(now).toEqual(before);
    if (how === "new") expect(now).toEqual(after);
    // What the log proves is what is told: nothing is believed that was not read back.
    const proven = s.evidence().words.find((w) => w.word === "gateway.bus");
    expect(proven?.bytes ?? null).toEqual(how === "half" ? null : how === "same" ? before : after);
    s.adapter.units = restarted({ ...s.adapter.units, fault: null });
    expect(await readWords(s.bench("gateway"), [0x04a4])).toEqual({ kind: "done" });
  });

  it("are not written with a low supply, nor over somebody else's change", async () => {
    const s = session();
    const before = s.words().get("gateway.bus") ?? [];
    s.adapter.units = { ...s.adapter.units, volts: 11.8 };
    expect(await s.write("gateway.bus", [1, 2, 3])).toMatchObject({ say: expect.stringContaining("11.8 V") });
    s.adapter.units = { ...s.adapter.units, volts: 13.2 };
    const stale = await writeWord(s.bench("gateway"), { identifier: 0x04a4, before: [9, 9, 9], after: [1, 2, 3] });
    expect(stale).toMatchObject({ say: expect.stringContaining("no longer as it was") });
    expect(s.words().get("gateway.bus")).toEqual(before);
  });

  it("stand as they did when the person cancels before writing, and as sent when after", async () => {
    const s = session();
    const before = s.words().get("gateway.bus") ?? [];
    let asked = 0;
    const stop = (n: number) => ({ cancelled: () => asked++ >= n });
    expect(await s.write("gateway.bus", [1, 2, 3], stop(0))).toMatchObject({ kind: "cancelled" });
    asked = 0;
    expect(await s.write("gateway.bus", [1, 2, 3], stop(1))).toMatchObject({ kind: "cancelled" });
    expect(s.words().get("gateway.bus")).toEqual(before);
    asked = 0;
    expect(await s.write("gateway.bus", [1, 2, 3], stop(2))).toEqual({ kind: "done" });
    expect(s.words().get("gateway.bus")).toEqual([1, 2, 3]);
  });

  it("that give a word of another length are read as such, and it is not taken for the word", async () => {
    const s = session();
    s.adapter.units = { ...s.adapter.units, fault: "wrongLength" };
    await readWords(s.bench("gateway"), [0x04a4]);
    expect(s.evidence().words[0]?.bytes).toHaveLength(2);
  });
});
