import { describe, expect, it } from "vitest";
import { SPEAKER_BLOCK } from "../library/standard-plugs";
import { CORNERS, type Corner, type Heard } from "./corners";
import { contactMoves, moveSteps, type SpeakerContact, walkOutcome } from "./speaker-walk";

const BLOCK = SPEAKER_BLOCK.map(([cavity, corner, pole]): SpeakerContact => ({ cavity, corner, pole }));
const CAVITIES = BLOCK.map((c) => c.cavity);
const walk = (heard: Partial<Record<Corner, Heard>>) =>
  new Map(CORNERS.flatMap((c) => (heard[c] === undefined ? [] : [[c, heard[c]] as const])));
const outcome = (heard: Partial<Record<Corner, Heard>>, reversed: Corner[] = []) =>
  walkOutcome(walk(heard), BLOCK, new Set(reversed));

/** All orders of a list. */
function* permutations<T>(list: readonly T[]): Generator<T[]> {
  if (list.length === 0) yield [];
  for (const [i, first] of list.entries())
    for (const rest of permutations(list.filter((_, k) => k !== i))) yield [first, ...rest];
}

/** Does the moves on a plug, and fails where a cavity is taken or empty. @returns how many contacts were pulled, how many hung at once */
function carriedOut(at: Map<string, string>, moves: ReturnType<typeof contactMoves>): { pulled: number; hung: number } {
  let hanging: { wire: string; to: string }[] = [];
  let hung = 0;
  const settle = () => {
    hanging = hanging.filter((h) => {
      if (at.has(h.to)) return true;
      at.set(h.to, h.wire);
      return false;
    });
  };
  for (const m of moves) {
    const wire = at.get(m.from);
    if (wire === undefined) throw new Error(`nothing sits at ${m.from}`);
    at.delete(m.from);
    if (m.waits) hanging.push({ wire, to: m.to });
    else if (at.has(m.to)) throw new Error(`${m.to} is taken`);
    else at.set(m.to, wire);
    hung = Math.max(hung, hanging.length);
    settle();
  }
  settle();
  if (hanging.length > 0) throw new Error("a wire hangs");
  return { pulled: moves.length, hung };
}

describe("moves of contacts", () => {
  it("are the fewest on all 40,320 arrangements of the eight, by exhaustive search, with one wire hanging at most", () => {
    // Which sets of cavities are emptied: the smallest that holds every wrong wire. Bit i stands for cavity i.
    const sizes = Array.from({ length: 256 }, (_, s) => [...s.toString(2)].filter((b) => b === "1").length);
    let seen = 0;
    for (const order of permutations([0, 1, 2, 3, 4, 5, 6, 7])) {
      seen++;
      let fewest = 8;
      for (let s = 0; s < 256; s++) {
        if ((sizes[s] as number) >= fewest) continue;
        // What is not pulled must be home already; what is pulled can then go home, each cavity being free.
        if (order.every((home, at) => ((s >> at) & 1) === 1 || home === at)) fewest = sizes[s] as number;
      }
      const wires = order.map((home, i) => ({
        ...(BLOCK[home] as SpeakerContact),
        cavity: CAVITIES[i] as string,
        home: CAVITIES[home] as string,
      }));
      const at = new Map(wires.map((w) => [w.cavity, w.home]));
      const { pulled, hung } = carriedOut(at, contactMoves(wires));
      const same = order.every((h, i) => h === i);
      if (pulled !== (same ? 0 : fewest) || hung > 1 || [...at].some(([cavity, wire]) => cavity !== wire))
        throw new Error(`${order}: ${pulled} pulled, ${fewest} needed, ${hung} hung`);
    }
    expect(seen).toBe(40_320);
  });

  it("take both contacts of each pair: four for two corners, eight for all four in a round", () => {
    const front = outcome({ LF: "RF", RF: "LF", LR: "LR", RR: "RR" });
    expect(front).toMatchObject({ kind: "exchanged", cycles: [["LF", "RF"]], silent: [] });
    expect(front.kind === "exchanged" && front.moves.map((m) => `${m.from}>${m.to}`).sort()).toEqual([
      "2>3",
      "3>2",
      "6>7",
      "7>6",
    ]);
    const round = outcome({ LF: "RF", RF: "RR", RR: "LR", LR: "LF" });
    expect(round).toMatchObject({ kind: "exchanged", cycles: [["LF", "RF", "RR", "LR"]] });
    expect(round.kind === "exchanged" && round.moves).toHaveLength(8);
    const twoPairs = outcome({ LF: "RF", RF: "LF", LR: "RR", RR: "LR" });
    expect(twoPairs.kind === "exchanged" && [twoPairs.cycles.length, twoPairs.moves.length]).toEqual([2, 8]);
  });

  it("turn a pair that is out of phase, alone or with an exchange", () => {
    const own = { LF: "LF", RF: "RF", LR: "LR", RR: "RR" } as const;
    const turned = outcome(own, ["LF"]);
    expect(turned.kind === "exchanged" && turned.moves.map((m) => `${m.from}>${m.to}`).sort()).toEqual(["3>7", "7>3"]);
    const both = outcome({ ...own, LF: "RF", RF: "LF" }, ["RF"]);
    expect(both.kind === "exchanged" && both.moves).toHaveLength(4);
  });

  it("are told as the hands do them: what hangs goes in once its cavity is free", () => {
    const front = outcome({ LF: "RF", RF: "LF", LR: "LR", RR: "RR" });
    const steps = front.kind === "exchanged" ? moveSteps(front.moves) : [];
    expect(steps.map((s) => `${s.corner}${s.pole} ${s.from ?? "hangs"} > ${s.to ?? "hangs"}`)).toEqual([
      "LF+ 2 > hangs",
      "RF+ 3 > 2",
      "LF+ hangs > 3",
      "LF- 6 > hangs",
      "RF- 7 > 6",
      "LF- hangs > 7",
    ]);
    expect(moveSteps([])).toEqual([]);
  });
});

describe("a walk", () => {
  it("is right when each corner plays at its own", () => {
    expect(outcome({ LF: "LF", RF: "RF", LR: "LR", RR: "RR" })).toEqual({ kind: "right" });
  });

  it("that is not over says what is left, and that the rear belongs to it", () => {
    expect(outcome({})).toEqual({ kind: "open", left: ["LF", "RF", "LR", "RR"], hint: null });
    expect(outcome({ LF: "RF", RF: "LF" })).toMatchObject({ left: ["LR", "RR"], hint: expect.stringMatching(/rear/) });
    expect(outcome({ LF: "LF", RF: "RF" })).toMatchObject({ hint: null });
  });

  it.each([
    [{ LF: "several", RF: "RF", LR: "LR", RR: "RR" }, /several play/],
    [{ LF: "RF", RF: "RF", LR: "LR", RR: "RR" }, /plays at two corners/],
    [{ LF: "none", RF: "LF", LR: "LR", RR: "RR" }, /plays elsewhere and nothing plays at its own corner/],
    [{ LF: "none", RF: "RF", LR: "LR", RR: "RR" }, /Nothing plays at left front; the others are right/],
  ] as const)("that no exchange explains is said to be so: %o", (heard, reason) => {
    expect(outcome(heard)).toEqual({ kind: "notExchanged", reason: expect.stringMatching(reason) });
  });

  it("with an exchange and a silent corner cures the exchange and names the corner", () => {
    const both = outcome({ LF: "RF", RF: "LF", LR: "LR", RR: "none" });
    expect(both).toMatchObject({ kind: "exchanged", cycles: [["LF", "RF"]], silent: ["RR"] });
    expect(both.kind === "exchanged" && both.moves).toHaveLength(4);
  });
});
