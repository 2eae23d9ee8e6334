/** What a person sees of a function by the plain evaluator. */
import type { Verdict } from "../../../core/model/observe";
import { senseOf, sightKey, sightOf } from "../../../core/model/sight";
import type { FunctionSpec } from "../../../core/model/types";
import type { Model } from "./outcome";

export function plainSight(model: Model, fn: FunctionSpec, situationId: string): string {
  const contacts = model.system.parts.flatMap((part) =>
    part.ports.flatMap((port) =>
      port.contacts.map((c) => ({ part, kind: c.kind, ref: `${part.id}.${port.id}.${c.id}` })),
    ),
  );
  const looked = fn.observe.map((o) => ({
    at: o.at,
    verdict: model.try({ ...fn, observe: [o] }, situationId).outcome as Verdict,
  }));
  const first = fn.observe[0];
  const sense = senseOf(contacts.find((c) => c.ref === first?.at)?.kind);
  const evaluation = model.evaluate(model.try(fn, situationId).situation);
  const given = contacts.some(
    ({ part, ref }) =>
      part.type === "device" &&
      part.id !== "phone" &&
      evaluation.arrivals(ref, "out").some((a) => a.signal.attributes.sound === "phone"),
  );
  const ofPhone = first?.where.sound === "phone" && evaluation.situation.phone !== "none";
  return sightKey(sightOf(sense, looked, () => ofPhone && !given));
}
