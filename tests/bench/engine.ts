/**
 * The engine against the plain evaluator of the tests in the same run: faults of the largest shipped job, one
 * situation, growth with the size of a system; and against a plain walk through the same graph by graphology.
 */
import { DirectedGraph } from "graphology";
import { simulatePairs } from "../../core/diagnose/pairs";
import { judgeTable } from "../../core/diagnose/table";
import { planJob } from "../../core/job/plan";
import { compile } from "../../core/model/compile";
import { mergeDisturbances } from "../../core/model/disturbance";
import { evaluate } from "../../core/model/evaluate";
import { type Fault, singleFaults } from "../../core/model/faults";
import { outcomeKey } from "../../core/model/observe";
import type { Contact, Disturbance, Part, System } from "../../core/model/types";
import { DEFAULT_SITUATION } from "../../core/model/types";
import { demoDocuments } from "../../profiles/library";
import { compile as compilePlain } from "../support/reference/compile";
import { evaluate as evaluatePlain } from "../support/reference/evaluate";
import { Model as PlainModel } from "../support/reference/outcome";
import { largest } from "./largest";
import { medianMs, report } from "./report";

const PLAIN = "plain evaluator, compiled anew each time";
const { plan, contacts } = largest();
const faults = singleFaults(plan.fitted, plan.touched);
const plainKeys = (d: Disturbance) => {
  const model = new PlainModel(plan.fitted, d, plan.touched.planned);
  for (const t of plan.tests) outcomeKey(model.try(t.fn, t.situationId).outcome);
};

{
  const value = medianMs(7, () => void judgeTable(plan.fitted, plan.tests, plan.touched));
  const peerValue = medianMs(3, () => {
    for (const f of faults) plainKeys(f.disturbance);
  });
  report({
    case: `all ${faults.length} single faults of the largest shipped job (${contacts} contacts, ${plan.tests.length} tests)`,
    value,
    unit: "ms",
    peer: PLAIN,
    peerValue,
    ratio: value / peerValue,
    note: "aim: at most 100",
  });
}
{
  const pairs = (faults.length * (faults.length + 1)) / 2;
  const SAMPLE = 40;
  const value = medianMs(3, () => void simulatePairs(plan.fitted, plan.tests, plan.touched));
  const sample = medianMs(3, () => {
    for (let i = 0; i < SAMPLE; i++) {
      const [a, b] = [faults[(i * 7) % faults.length], faults[(i * 13 + 5) % faults.length]] as [Fault, Fault];
      plainKeys(mergeDisturbances([a.disturbance, b.disturbance]));
    }
  });
  const peerValue = (sample / SAMPLE) * pairs;
  report({
    case: `all ${pairs} pairs of its faults`,
    value,
    unit: "ms",
    peer: `${PLAIN}, ${SAMPLE} pairs measured and scaled`,
    peerValue,
    ratio: value / peerValue,
    note: "aim: at most 2000",
  });
}
{
  const documents = demoDocuments();
  const value = medianMs(7, () => void planJob(documents, { choices: null }));
  report({ case: "plan the demonstration job, switch bank of 256 positions solved", value, unit: "ms" });
}

const situations = Array.from({ length: 16 }, (_, i) => ({
  ...DEFAULT_SITUATION,
  key: i & 1 ? ("running" as const) : ("on" as const),
  selector: i & 2 ? ("R" as const) : ("P" as const),
  pictureMode: i & 4 ? ("phone" as const) : ("factory" as const),
  lights: (i & 8) !== 0,
}));

{
  const compiled = compile(plan.fitted);
  const plain = compilePlain(plan.fitted);
  const value = medianMs(41, () => {
    for (const s of situations) evaluate(compiled, s, plan.settings);
  });
  const peerValue = medianMs(21, () => {
    for (const s of situations) evaluatePlain(plain, s, plan.settings);
  });
  report({
    case: "the largest shipped job in one situation",
    value: value / 16,
    unit: "ms",
    peer: "plain evaluator",
    peerValue: peerValue / 16,
    ratio: value / peerValue,
  });
  const graph = new DirectedGraph();
  for (let n = 0; n < compiled.graph.nodes; n++) graph.addNode(n);
  for (const e of compiled.graph.edges()) graph.mergeEdge(e.from, e.to);
  const starts = compiled.graph.sources.map((s) => s.to);
  const walk = medianMs(41, () => {
    for (let i = 0; i < 16; i++) breadthFirst(graph, starts);
  });
  report({
    case: "the same, against a plain breadth-first walk from all sources",
    value: value / 16,
    unit: "ms",
    peer: "graphology over the same graph",
    peerValue: walk / 16,
    ratio: value / walk,
    note: "aim: at most 3",
  });
}

const CONTACTS_A_PART = 10;
const sizes = [150, 300, 600, 1200, 2400];
const systems = sizes.map((n) => generated(n / CONTACTS_A_PART));
const times = systems.map((system) => {
  const compiled = compile(system);
  return medianMs(25, () => {
    for (const s of situations) evaluate(compiled, s);
  });
});
const plainTimes = systems.map((system) => {
  const compiled = compilePlain(system);
  return medianMs(9, () => {
    for (const s of situations) evaluatePlain(compiled, s);
  });
});
report({
  case: "growth exponent of evaluation from 150 to 2,400 contacts",
  value: slope(sizes.map(Math.log), times.map(Math.log)),
  unit: "power",
  peer: "plain evaluator",
  peerValue: slope(sizes.map(Math.log), plainTimes.map(Math.log)),
  note: `aim: at most 1.15; 2,400 contacts in 16 situations: ${times.at(-1)?.toFixed(1)} ms, plain ${plainTimes.at(-1)?.toFixed(1)} ms`,
});

function breadthFirst(graph: DirectedGraph, starts: readonly number[]): number {
  const seen = new Set<string>();
  const queue: string[] = [];
  const visit = (node: string) => {
    if (seen.has(node)) return;
    seen.add(node);
    queue.push(node);
  };
  for (const s of starts) visit(String(s));
  for (const node of queue) graph.forEachOutNeighbor(node, visit);
  return seen.size;
}

/** A chain of intercepting devices: supply and a bus straight through, pictures routed by mode and message. */
function generated(parts: number): System {
  const list: Part[] = Array.from({ length: parts }, (_, i) => device(i));
  const links = list.slice(1).map((p, i) => ({ id: `l${i}`, a: `${list[i]?.id}.out`, b: `${p.id}.in` }));
  return { parts: list, links, functions: [], actions: [], assumed: [], defaultSituation: DEFAULT_SITUATION };
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
