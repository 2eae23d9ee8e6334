/** Evaluating generated systems in 16 situations, and how the time grows with the number of contacts. */
import { compile } from "../../core/model/compile";
import { evaluate } from "../../core/model/evaluate";
import type { Contact, Part, System } from "../../core/model/types";
import { USUAL_SITUATION } from "../../core/model/types";
import { medianMs, report } from "./report";

const CONTACTS_A_PART = 10;
const situations = Array.from({ length: 16 }, (_, i) => ({
  ...USUAL_SITUATION,
  key: i & 1 ? ("running" as const) : ("on" as const),
  selector: i & 2 ? ("R" as const) : ("P" as const),
  pictureMode: i & 4 ? ("phone" as const) : ("factory" as const),
  lights: (i & 8) !== 0,
}));

const sizes = [150, 300, 600, 1200, 2400];
const times = sizes.map((contacts) => {
  const compiled = compile(generated(contacts / CONTACTS_A_PART));
  if (compiled.contacts.length !== contacts)
    throw new Error(`${compiled.contacts.length} contacts instead of ${contacts}`);
  return medianMs(15, () => {
    for (const s of situations) evaluate(compiled, s);
  });
});
report({ case: "evaluate 60 parts, 600 contacts in 16 situations", value: times[2] ?? 0, unit: "ms" });
report({
  case: "growth exponent of evaluation from 150 to 2,400 contacts",
  value: slope(sizes.map(Math.log), times.map(Math.log)),
  unit: "power",
  note: "aim: at most 1.15",
});

/** A chain of intercepting devices: supply and a bus straight through, pictures routed by mode and message. */
function generated(parts: number): System {
  const list: Part[] = Array.from({ length: parts }, (_, i) => device(i));
  const links = list.slice(1).map((p, i) => ({ id: `l${i}`, a: `${list[i]?.id}.out`, b: `${p.id}.in` }));
  return { parts: list, links, functions: [], actions: [], assumed: [], usual: USUAL_SITUATION };
}

function device(i: number): Part {
  const contacts = (): Contact[] => [
    { id: "1", kind: "battery", direction: "wire" },
    { id: "2", kind: "can", direction: "wire" },
    { id: "3", kind: "can", direction: "wire" },
    { id: "4", kind: "serialVideo", direction: "wire" },
    { id: "5", kind: "touch", direction: "wire" },
  ];
  // Every tenth device starts new signals, so that their number on one net stays the same at every size.
  const first = i % 10 === 0;
  return {
    id: `p${i}`,
    name: `Part ${i}`,
    type: "device",
    ports: [
      { id: "in", label: "in", contacts: contacts() },
      { id: "out", label: "out", contacts: contacts() },
    ],
    joins: first
      ? []
      : [{ contacts: ["in.1", "out.1"] }, { contacts: ["in.2", "out.2"] }, { contacts: ["in.3", "out.3"] }],
    buses: [{ id: "b", high: "in.2", low: "in.3" }],
    sources: first
      ? [
          { id: "feed", at: ["out.1"] },
          {
            id: "high",
            at: ["out.2"],
            attributes: { message: "reverse", line: "high" },
            when: { situation: "selector", is: ["R"] },
          },
          {
            id: "low",
            at: ["out.3"],
            attributes: { message: "reverse", line: "low" },
            when: { situation: "selector", is: ["R"] },
          },
          { id: "picture", at: ["out.4"], attributes: { picture: `p${i}` } },
        ]
      : [],
    needs: first ? [] : [{ at: "in.1", say: "battery feed" }],
    routes: first
      ? []
      : [
          { id: "factory", from: "in.4", to: "out.4", when: { situation: "pictureMode", is: ["factory"] } },
          {
            id: "reverse",
            from: "in.4",
            to: "out.4",
            when: {
              all: [
                { situation: "pictureMode", is: ["phone"] },
                { hears: "reverse", bus: "b" },
              ],
            },
          },
          { id: "touch", from: "out.5", to: "in.5" },
        ],
  };
}

/** Least-squares slope. */
function slope(x: readonly number[], y: readonly number[]): number {
  const mean = (v: readonly number[]) => v.reduce((a, b) => a + b, 0) / v.length;
  const [mx, my] = [mean(x), mean(y)];
  const dot = (a: readonly number[], ma: number, b: readonly number[], mb: number) =>
    a.reduce((sum, v, i) => sum + (v - ma) * ((b[i] ?? 0) - mb), 0);
  return dot(x, mx, y, my) / dot(x, mx, x, mx);
}
