import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { standInDbc } from "../../sim/car";
import { composeStock } from "../model/compose";
import { type BusMap, BusMapError, checkBusMap, emptyBusMap, mappedSignals, withFound } from "./bus-map";
import { carMessages, signalsOnLog } from "./car-messages";
import { parseDbc } from "./dbc";
import { bareSignal, describedSignal, type FoundSignal, messagesOf } from "./hunt/found";

const DBC = standInDbc();
const described = DBC.messages.flatMap((m) => m.signals.map((s) => describedSignal(m, s, "file")));
// As the state of a job has them, with who took them.
const SIGNALS = described
  .filter((s): s is FoundSignal => typeof s !== "string")
  .map((s) => ({ ...s, at: "2026-11-27T08:00:00Z", by: "Test" }));
const MAP = shippedLibrary().find((p): p is BusMap => p.document === "busMap") as BusMap;

describe("signals of a description", () => {
  it("lie where the description has them, pages too, when they are written as messages again", () => {
    const again = messagesOf(SIGNALS, () => "");
    for (const message of DBC.messages) {
      const twin = again.find((m) => m.id === message.id && m.extended === message.extended);
      for (const s of message.signals.filter((x) => x.kind !== "float32"))
        expect(twin?.signals.find((t) => t.name === s.name)).toMatchObject({
          startBit: s.startBit,
          length: s.length,
          littleEndian: s.littleEndian,
          kind: s.kind,
          factor: s.factor,
          offset: s.offset,
          multiplex: s.multiplex,
          values: s.values,
        });
    }
  });

  it("are refused with the reason where a job has no words for them", () => {
    expect(described.filter((s) => typeof s === "string")).toEqual(["Its value is a floating point number."]);
    const [message] = parseDbc(
      'BO_ 100 Pages: 8 X\n SG_ Page M : 0|8@1+ (1,0) [0|0] "" X\n SG_ A m1 : 8|8@1+ (1,0) [0|0] "" X\nSG_MUL_VAL_ 100 A Page 1-3;\n',
    ).messages;
    const a = message?.signals.find((s) => s.name === "A");
    expect(message && a && describedSignal(message, a, "file")).toMatch(/more than one page/);
  });
});

describe("a bus map", () => {
  const of = (signals: BusMap["signals"]) => () => checkBusMap({ signals });
  const [first] = MAP.signals;
  if (!first) throw new Error("the shipped map is empty");

  it("is refused where it contradicts itself, naming the signal", () => {
    expect(of(MAP.signals)).not.toThrow();
    expect(of([first, first])).toThrow(BusMapError);
    expect(of([{ ...first, startBit: 8 * first.bytes }])).toThrow(/not lie inside/);
    expect(of([{ ...first, id: 0x800, extended: false }])).toThrow(/more than 11 bits/);
    expect(of([first, { ...first, signal: "Other", message: "Else" }])).toThrow(/is KeyState .* Else/);
    expect(of([first, { ...first, signal: "Other", bytes: first.bytes - 1 }])).toThrow(/with 3 here/);
  });

  it("takes over what a job found, keeps what came from itself, and gives back the same signals", () => {
    const empty = emptyBusMap({ id: "car", title: "A car" });
    const full = withFound(empty, SIGNALS, () => "Job 1");
    expect(full.signals).toHaveLength(SIGNALS.length);
    expect(mappedSignals(full)).toEqual(SIGNALS.map((s) => ({ ...bareSignal(s), file: "", thing: "" })));
    const moved = SIGNALS.map((s) => ({ ...s, startBit: 0, length: 1, file: "", message: "Renamed" }));
    expect(withFound(full, moved, () => null)).toEqual(full);
    const again = withFound(full, [{ ...(moved[0] as FoundSignal), file: "log" }], () => "Job 2");
    expect(again.signals[0]).toMatchObject({ startBit: 0, length: 1, message: "KeyState", origin: "Job 2" });
    expect(again.signals).toHaveLength(full.signals.length);
  });
});

describe("what the car says", () => {
  const { car, variant } = demoDocuments();
  const system = composeStock(car, variant);

  it("is what its model sends, with how it reads where a signal tells", () => {
    const none = carMessages(system, [], []);
    expect(none.length).toBeGreaterThan(4);
    expect(none.every((m) => m.rule === null && !m.needed)).toBe(true);
    const known = carMessages(system, mappedSignals(MAP), []);
    expect(known.map((m) => m.output)).toEqual(none.map((m) => m.output));
    expect(known.find((m) => m.output === "reverse")?.rule?.when).toEqual([
      [{ signal: "Selector.Position", is: "=", value: 1 }],
    ]);
    expect(known.filter((m) => m.rule === null)).toEqual([]);
  });

  it("is held against a log: missing messages and other lengths are told", () => {
    const rows = DBC.messages.map((m) => ({ id: m.id, extended: m.extended, lengths: [m.length] }));
    const signals = mappedSignals(MAP);
    expect(signalsOnLog(signals, rows)).toEqual({ there: 6, missing: [], otherLength: [] });
    const other = rows.filter((r) => r.id !== 420).map((r) => (r.id === 704 ? { ...r, lengths: [8] } : r));
    expect(signalsOnLog(signals, other)).toEqual({ there: 4, missing: ["Selector"], otherLength: ["WheelKeys"] });
  });
});
