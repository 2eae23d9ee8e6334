/** A translation to begin with, from what was found and how it was named. */
import type { DbcMessage, DbcSignal } from "../dbc-messages";
import { MOVING_KMH } from "./check";
import { OUTPUTS, type OutputId, type Rule, usualRule } from "./translation";

/** Names of values that mean an output. */
const VALUE_NAMES: readonly (readonly [OutputId, RegExp])[] = [
  ["reverse", /^(?:r|reverse)$/i],
  ["volumeUp", /^vol(?:ume)?[ _]?(?:up|\+)$/i],
  ["volumeDown", /^vol(?:ume)?[ _]?(?:down|-)$/i],
  ["next", /^(?:next|track up|seek up)$/i],
  ["back", /^(?:back|previous|track down|seek down)$/i],
  ["phone", /^(?:phone|call)$/i],
  ["voice", /^(?:voice|speech)$/i],
];
/** Positions of the key: one is accessory, and in these the accessory feed is on (while cranking it is off). */
const ACCESSORY = /^(?:acc|accessory)$/i;
const AWAKE = /^(?:acc|accessory|on|ignition|run|running)$/i;

/** Rules for all outputs that the names of signals and of their values tell; nothing is guessed from numbers. */
export function draftRules(messages: readonly DbcMessage[]): Rule[] {
  const rules = new Map<OutputId, Rule>();
  for (const message of messages)
    for (const signal of message.signals)
      for (const rule of rulesOf(message.name, signal)) if (!rules.has(rule.output)) rules.set(rule.output, rule);
  return (Object.keys(OUTPUTS) as OutputId[]).flatMap((o) => rules.get(o) ?? []);
}

function rulesOf(message: string, s: DbcSignal): Rule[] {
  const signal = `${message}.${s.name}`;
  const equals = (output: OutputId, raw: number): Rule => ({
    ...usualRule(output),
    when: [[{ signal, is: "=", value: raw * s.factor + s.offset }]],
  });
  const named = [...s.values].flatMap(([raw, name]) =>
    VALUE_NAMES.filter(([, words]) => words.test(name)).map(([o]) => equals(o, raw)),
  );
  const values = [...s.values];
  if (values.some(([, name]) => ACCESSORY.test(name)))
    named.push({
      ...usualRule("accessory"),
      when: values.filter(([, name]) => AWAKE.test(name)).flatMap(([raw]) => equals("accessory", raw).when),
    });
  if (named.length > 0) return named;
  const on = values.find(([, name]) => /^on$/i.test(name));
  if (on && /light|beam|lamp/i.test(s.name)) return [equals("lights", on[0])];
  if (/km\/?h/i.test(s.unit)) return [{ ...usualRule("motionLock"), when: [[{ signal, is: ">", value: MOVING_KMH }]] }];
  if (/^(?:deg|°)$/i.test(s.unit) && /steer|wheel|angle/i.test(s.name))
    return [{ ...usualRule("steering"), level: { signal, factor: 1, offset: 0 } }];
  return [];
}
