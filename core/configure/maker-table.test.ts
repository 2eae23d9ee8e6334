import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { jobOf, logOf } from "../../tests/support/jobs";
import { planJob } from "../job/plan";
import { switchSuspects } from "../job/switch-suspects";
import type { Command } from "../log/entry";
import { Model } from "../model/outcome";
import { readMakerTable } from "./maker-table";

const documents = demoDocuments();
const plan = planJob(documents, { choices: null });
const bank = documents.kit.switchBank;
const solution = plan.switches;
if (!bank || !solution?.settings) throw new Error("the demonstration kit has a solved switch bank");
const right = solution.switches.map((s) => (s.value === bank.on ? "on" : "off"));
const decisive = solution.switches.find((s) => !s.free)?.number ?? 0;
const flip = (v: string | undefined) => (v === "on" ? "off" : "on");

describe("the maker's table", () => {
  it.each([
    ["as numbered pairs", right.map((v, i) => `${i + 1}: ${v}`).join(", ")],
    ["as labels", right.map((v, i) => `SW${i + 1}=${v.toUpperCase()}`).join(" ")],
    ["as a bare row", right.map((v) => v.toUpperCase()).join(" ")],
    ["as ones and zeros", right.map((v) => (v === "on" ? 1 : 0)).join(" ")],
  ])("is read %s and agrees", (_, text) => {
    const { rows, unread } = readMakerTable(text, bank, solution);
    expect(unread).toEqual([]);
    expect(rows.map((r) => r.verdict)).toEqual(right.map(() => "agrees"));
  });

  it("that contradicts is named with what it breaks", () => {
    const text = right.map((v, i) => `${i + 1} ${i + 1 === decisive ? flip(v) : v}`).join(" ");
    const row = readMakerTable(text, bank, solution).rows[decisive - 1];
    expect(row).toMatchObject({ verdict: "contradicts" });
    expect(row?.breaks.length).toBeGreaterThan(0);
  });

  it("with gaps, doubles and other words says so", () => {
    const { rows, unread } = readMakerTable("1 on, 1 off, 2 on, red car, 19 on, 3", bank, solution);
    expect(rows[0]).toMatchObject({ table: null, verdict: "gap" });
    expect(rows[1]?.table).toBe("on");
    expect(unread).toEqual(["red", "car", "19 on", "3", "1 (on and off)"]);
  });
});

describe("the one switch that explains what is seen", () => {
  const switches = { ...solution.settings };
  const key = `${bank.part}.${bank.switches[decisive - 1]}`;
  const plugged = plan.connections.map(
    (c): Command => ({ kind: "connect.plug", data: { link: c.link, plugged: true } }),
  );
  /** Answers as a car gives them on which the bank stands like this. */
  const answers = (stands: Record<string, string>): Command[] => {
    const model = new Model(plan.fitted);
    return plan.tests.map((t) => ({
      kind: "prove.result",
      data: {
        test: t.id,
        answer: model.see(t.fn, t.situationId, { ...plan.settings, ...stands }).kind === "ok" ? "pass" : "nothing",
        note: "",
      },
    }));
  };
  const entered = { kind: "configure.switches", data: { settings: switches, before: null, unpowered: true } } as never;
  const job = (...more: Command[]) => jobOf(documents, logOf(...plugged, entered, ...more));

  it("is the one that was set wrong and noted right", () => {
    const wrong = { ...switches, [key]: switches[key] === bank.on ? bank.off : bank.on };
    const { plan: p, state } = job(...answers(wrong));
    const found = switchSuspects(p, state);
    expect(found?.asEntered).toBe(false);
    expect(found?.suspects.map((s) => s.number)).toContain(decisive);
    expect(found?.failing.length).toBeGreaterThan(0);
  });

  it("is none where no switch could do it, and nothing is said where nothing fails", () => {
    const odd = plan.tests.map(
      (t, i): Command => ({
        kind: "prove.result",
        data: { test: t.id, answer: i % 2 ? "pass" : "nothing", note: "" },
      }),
    );
    const strange = job(...odd);
    expect(switchSuspects(strange.plan, strange.state)).toMatchObject({ suspects: [], asEntered: false });
    const fine = job(...answers(switches));
    expect(switchSuspects(fine.plan, fine.state)).toBeNull();
  });
});
