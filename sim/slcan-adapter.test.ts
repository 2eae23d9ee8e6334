import { describe, expect, it } from "vitest";
import type { CodingMap } from "../core/coding/map";
import { openCommands, readSlcan, slcanLine } from "../core/diagnostics/slcan";
import type { OpenedWith } from "../core/job/job";
import { shippedLibrary } from "../profiles/library";
import { jobOf } from "../tests/support/jobs";
import { standInCar } from "./bench";
import { newUnits } from "./control-units";
import { SlcanStandIn } from "./slcan-adapter";

const library = shippedLibrary();
const find = (id: string) => library.find((p) => p.id === id);
const { plan, state } = jobOf({
  car: find("kestrane-fjell-11"),
  variant: find("kestrane-fjell-11-f1"),
  kit: find("kestrane-sister-s4"),
} as OpenedWith);
const map = find("kestrane-fjell-11-words") as CodingMap;
const plugged = { ...state, plugged: new Set(plan.connections.map((c) => c.link)), tapLit: true };
const car = standInCar(plan, plugged, null, map);

const adapter = (kbit = 500) => new SlcanStandIn(car, newUnits(car, 1), kbit);
const say = (a: SlcanStandIn, text: string, atMs = 0) =>
  a
    .hear(text, atMs)
    .map((s) => s.text)
    .join("");
const HELLO = slcanLine({ id: 0x710, data: [0x02, 0x3e, 0x00, 0x55, 0x55, 0x55, 0x55, 0x55] });

describe("the stand-in adapter", () => {
  it("opens as told, answers every command, and passes frames on in both directions", () => {
    const a = adapter();
    expect(say(a, openCommands(500, "send").join(""))).toBe("\r\r\r");
    const read = readSlcan(say(a, HELLO));
    expect(read).toMatchObject({ refused: 0, strange: [], rest: "" });
    expect(read.frames).toEqual([{ id: 0x77a, extended: false, data: expect.arrayContaining([0x02, 0x7e, 0x00]) }]);
  });

  it("sends nothing while it listens or is closed, and refuses what it does not know", () => {
    const a = adapter();
    expect(say(a, HELLO)).toBe("\u0007");
    expect(say(a, "O\r")).toBe("\u0007");
    expect(say(a, openCommands(500, "listen").join(""))).toBe("\r\r\r");
    expect(say(a, HELLO)).toBe("\u0007");
    expect(say(a, "S6\r")).toBe("\u0007");
    expect(say(a, "Q\rS9\r")).toBe("\u0007\u0007");
  });

  it("hears nothing at another speed than that of the bus, and puts halves of a line together", () => {
    const wrong = adapter(125);
    say(wrong, openCommands(500, "send").join(""));
    expect(say(wrong, HELLO)).toBe("z\r");
    const a = adapter();
    expect(
      openCommands(500, "send")
        .join("")
        .split("")
        .map((c) => say(a, c))
        .join(""),
    ).toBe("\r\r\r");
    expect(readSlcan(say(a, HELLO.slice(0, 7)) + say(a, HELLO.slice(7))).frames).toHaveLength(1);
  });
});
