/** What each mark in Connect sets off on the largest shipped system, and the layout of a large drawing. */
import ELK from "elkjs/lib/elk.bundled.js";
import { layOut } from "../../app/lib/lay-out";
import { placesFor } from "../../core/connect/as-plugged";
import { checkNow, checkPlan } from "../../core/job/connect";
import { foldJob } from "../../core/log/fold";
import { Model } from "../../core/model/outcome";
import { shippedLibrary } from "../../profiles/library";
import { largest } from "./largest";
import { medianMs, report } from "./report";

const library = shippedLibrary();
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));
const SITUATIONS = 16;

const { plan, contacts } = largest();
/** Half of the leads plugged, one of them in the wrong place: the middle of a job. */
const half = plan.connections.slice(0, Math.ceil(plan.connections.length / 2));
const state = {
  ...foldJob([]),
  plugged: new Set(half.map((c) => c.link)),
  plugAt: new Map(
    half
      .flatMap((c) =>
        placesFor(plan.fitted, c)
          .filter((p) => p !== c.b)
          .map((p) => [c.link, p] as const),
      )
      .slice(0, 1),
  ),
};
report({
  case: "check the plan of the largest shipped job, colours of all kits, remedies looked for",
  value: medianMs(15, () => {
    checkPlan(plan, state, kits);
  }),
  unit: "ms",
  note: "when the page is opened",
});
const tries = plan.fitted.functions
  .flatMap((fn) => fn.situations.map((s) => ({ fn, situation: s.id })))
  .slice(0, SITUATIONS);
report({
  case: `check and try the largest shipped system (${plan.fitted.parts.length} parts, ${contacts} contacts) in ${tries.length} situations`,
  value: medianMs(15, () => {
    checkNow(plan, state);
    const model = new Model(plan.fitted, {}, plan.settings);
    for (const t of tries) model.try(t.fn, t.situation);
  }),
  unit: "ms",
  note: "on each mark; it runs on the server, so no frame of the browser waits for it",
});

const elk = new ELK();
const PARTS = 60;
const graph = {
  boxes: Array.from({ length: PARTS }, (_, i) => ({
    id: `p${i}`,
    name: `Part number ${i}`,
    type: "device" as const,
    ofKit: i % 5 === 0,
  })),
  lines: Array.from({ length: PARTS * 2 }, (_, i) => ({
    id: `l${i}`,
    from: `p${i % PARTS}`,
    to: `p${(i * 7 + 3) % PARTS}`,
    kinds: ["bus" as const],
    layer: i % 3,
    air: false,
    ofKit: false,
  })).filter((l) => l.from !== l.to),
};
await layOut(elk, graph);
const times: number[] = [];
for (let i = 0; i < 5; i++) {
  const start = performance.now();
  await layOut(elk, graph);
  times.push(performance.now() - start);
}
report({
  case: `lay out ${PARTS} parts and ${graph.lines.length} connections`,
  value: times.sort((a, b) => a - b)[2] ?? 0,
  unit: "ms",
  note: "aim: under 1000; in a worker",
});
process.exit(0);
