/** Whether the parts of the kit have power: what their own feed and ground say, and nothing else. */
import type { JobState } from "../log/entry";
import { layerOf } from "../model/kinds";
import { describeContact, locate } from "../model/labels";
import { oncePer } from "../model/once";
import { Model } from "../model/outcome";
import type { Need, Part, Situation } from "../model/types";
import type { CarState } from "../strip/car-state";
import { factoryNow, type JobPlan, openNow } from "./plan";

/** A device of the kit with the supplies that it needs. */
interface Fed {
  part: Part;
  needs: readonly Need[];
}

/** Devices of the kit that take their supply from the car. */
const fedParts = oncePer((plan: JobPlan): Fed[] =>
  plan.fitted.parts.flatMap((part) => {
    if (part.type !== "device" || !plan.touched.parts.has(part.id)) return [];
    const needs = suppliesOf(plan, part);
    return needs.length > 0 ? [{ part, needs }] : [];
  }),
);

function suppliesOf({ fitted }: JobPlan, part: Part): Need[] {
  return (part.needs ?? []).filter((n) => {
    const kind = locate(fitted, `${part.id}.${n.at}`).contact?.kind;
    return kind !== undefined && layerOf(kind) === 0;
  });
}

/** Why the radio that is to be updated has no power with the ignition on; null when it has, or nothing is known of it. */
export function radioWithoutSupply(plan: JobPlan, state: JobState): string | null {
  const { kit, variant } = plan.documents;
  const floor = kit.firmwareFloors[0]?.part;
  const own = new Set(floor === undefined ? variant.parts.map((p) => p.id) : [floor]);
  const fed = plan.fitted.parts.filter((p) => own.has(p.id)).map((part) => ({ part, needs: suppliesOf(plan, part) }));
  const [radio] = fed.sort((a, b) => b.needs.length - a.needs.length);
  if (!radio) return null;
  // By the plugs of the car, or through the kit that took their place.
  const need =
    missingIn(factoryNow(plan, state), radio, { ...plan.stock.defaultSituation, key: "on" }) &&
    missing(plan, state, radio, "on");
  return need ? `${radio.part.name} does not get ${need.say}.` : null;
}

/** The module of the kit: the part with the switch bank, else the one with the most supplies; null for a kit without. */
const moduleOf = oncePer((plan: JobPlan): Fed | null => {
  const all = fedParts(plan);
  const bank = plan.documents.kit.switchBank?.part;
  return all.find((f) => f.part.id === bank) ?? [...all].sort((a, b) => b.needs.length - a.needs.length)[0] ?? null;
});

/** The car as it is plugged now, asked at a position of the key. */
const suppliedNow = oncePer((plan: JobPlan) =>
  oncePer((state: JobState) => {
    const { openLinks = {} } = openNow(plan, state);
    return new Model(plan.fitted, { openLinks });
  }),
);

/** The first supply that does not arrive at a part with the key in a position; null when all do. */
function missing(plan: JobPlan, state: JobState, fed: Fed, key: CarState["key"]): Need | null {
  return missingIn(suppliedNow(plan)(state), fed, { ...plan.fitted.defaultSituation, key });
}

function missingIn(model: Model, { part, needs }: Fed, situation: Situation): Need | null {
  const evaluation = model.evaluate(situation);
  return needs.find((n) => evaluation.arrivals(`${part.id}.${n.at}`).length === 0) ?? null;
}

/** True when the kit has a part that takes its supply from the car. */
export function hasModule(plan: JobPlan): boolean {
  return moduleOf(plan) !== null;
}

/**
 * Why the module would have no power with the ignition on; null when it would have.
 *
 * @param car as it stands
 */
export function noSupply(plan: JobPlan, state: JobState, car: Pick<CarState, "battery">): string | null {
  const module = moduleOf(plan);
  if (car.battery === "isolated") return "The battery is off.";
  if (state.powerOut !== null) return "Its plug is out for the power cycle.";
  if (!module) return null;
  const need = missing(plan, state, module, "on");
  if (!need) return null;
  const at = describeContact(plan.fitted, `${module.part.id}.${need.at}`);
  return `${module.part.name} does not get ${need.say} at ${at}.`;
}

/** Whether the module runs as the car stands: by its own feed and ground, with the key where it is. */
export function isPowered(
  plan: JobPlan,
  state: JobState,
  car: Pick<CarState, "battery" | "key" | "keyKnown">,
): boolean {
  const module = moduleOf(plan);
  if (!module || car.battery === "isolated" || state.powerOut !== null) return false;
  // Where nobody knows how the key stands, the dangerous case counts.
  return missing(plan, state, module, car.keyKnown ? car.key : "on") === null;
}

/** Tests that look different while the module has no power: what the kit brings or passes on. */
export const needModule = oncePer((plan: JobPlan): ReadonlySet<string> => {
  const module = moduleOf(plan);
  if (!module) return new Set();
  const sound = new Model(plan.fitted, {}, plan.settings);
  const dead = sound.under({ deadParts: { [module.part.id]: "It has no power." } });
  return new Set(
    plan.tests.filter((t) => dead.sight(t.fn, t.situationId) !== sound.sight(t.fn, t.situationId)).map((t) => t.id),
  );
});
