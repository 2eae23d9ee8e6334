/** What each mark in Connect sets off on the largest shipped system, and the layout of a large drawing. */
import { layOut } from "../../app/workers/lay-out";
import { checkNow, checkPlan } from "../../core/job/connect";
import { planJob } from "../../core/job/plan";
import { foldJob } from "../../core/job/state";
import { CoreError } from "../../core/model/errors";
import { Model } from "../../core/model/outcome";
import { shippedLibrary } from "../../profiles/library";
import { medianMs, report } from "./report";

const library = shippedLibrary();
const cars = library.flatMap((p) => (p.document === "car" ? [p] : []));
const variants = library.flatMap((p) => (p.document === "variant" ? [p] : []));
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));
const SITUATIONS = 16;

/** The job with most contacts of all that can be planned. */
function largest() {
  let best: { plan: ReturnType<typeof planJob>; contacts: number } | null = null;
  for (const car of cars)
    for (const variant of variants.filter((v) => v.car === car.id))
      for (const kit of kits) {
        try {
          const plan = planJob({ car, variant, kit }, { choices: null, wishes: null });
          const contacts = plan.fitted.parts.flatMap((p) => p.ports.flatMap((x) => x.contacts)).length;
          if (!best || contacts > best.contacts) best = { plan, contacts };
        } catch (error) {
          // A kit for another car is no case.
          if (!(error instanceof CoreError)) throw error;
        }
      }
  if (!best) throw new Error("no job can be planned");
  return best;
}

const { plan, contacts } = largest();
const state = foldJob([]);
const tries = plan.fitted.functions
  .flatMap((fn) => fn.situations.map((s) => ({ fn, situation: s.id })))
  .slice(0, SITUATIONS);
report({
  case: `check and try the largest shipped system (${plan.fitted.parts.length} parts, ${contacts} contacts) in ${tries.length} situations`,
  value: medianMs(15, () => {
    checkPlan(plan, state, kits);
    checkNow(plan, state);
    const model = new Model(plan.fitted, {}, plan.settings);
    for (const t of tries) model.try(t.fn, t.situation);
  }),
  unit: "ms",
  note: "on each mark; it runs on the server, so no frame of the browser waits for it",
});

const PARTS = 60;
const graph = {
  boxes: Array.from({ length: PARTS }, (_, i) => ({
    id: `p${i}`,
    name: `Part number ${i}`,
    type: "device" as const,
    ours: i % 5 === 0,
  })),
  lines: Array.from({ length: PARTS * 2 }, (_, i) => ({
    id: `l${i}`,
    from: `p${i % PARTS}`,
    to: `p${(i * 7 + 3) % PARTS}`,
    kinds: ["bus" as const],
    layer: i % 3,
    air: false,
    ours: false,
  })).filter((l) => l.from !== l.to),
};
await layOut(graph);
const times: number[] = [];
for (let i = 0; i < 5; i++) {
  const start = performance.now();
  await layOut(graph);
  times.push(performance.now() - start);
}
report({
  case: `lay out ${PARTS} parts and ${graph.lines.length} connections`,
  value: times.sort((a, b) => a - b)[2] ?? 0,
  unit: "ms",
  note: "aim: under 1000; in a worker",
});
process.exit(0);
