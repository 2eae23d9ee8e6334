import type { KitProfile } from "../../core/model/profile";

/** The kit of the demonstration with a lamp that is lit only where the switch for an added camera is on. */
export function withLamp(before: KitProfile): KitProfile {
  const kit = { ...structuredClone(before), id: "orvanto-om8-lamp", title: "Orvanto OM-8 with a lamp" };
  const module = kit.parts.find((p) => p.id === "module");
  module?.ports.push({
    id: "lamp",
    label: "lamp",
    inside: true,
    contacts: [{ id: "1", kind: "trigger", direction: "out" }],
  });
  module?.sources?.push({ id: "lamp", at: ["lamp.1"], when: { setting: "sw4", is: ["on"] } });
  for (const fn of kit.functions) if (fn.id === "frontView") fn.who = "customer";
  kit.functions.push({
    id: "lamp",
    name: "Lamp on the module",
    say: "Look at the lamp.",
    who: "customer",
    observe: [{ at: "module.lamp.1", where: {} }],
    situations: [{ id: "on", label: "key on", set: {} }],
    minutes: 1,
  });
  return kit;
}
