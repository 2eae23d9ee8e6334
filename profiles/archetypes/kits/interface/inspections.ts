/** What is measured when something does not work: the supply at the module, the picture leads from end to end. */
import type { KitProfile } from "../../../../core/model/profile";
import type { InterfaceLeaflet } from "./leaflet";
import { moduleSupply } from "./supply";

/** A supply that carries a module, engine off or running. Common practice. */
const SUPPLIED = { unit: "V", min: 11, max: 15 } as const;
/** A lead of a few metres with its contacts. Common practice. */
const WHOLE = { unit: "Ω", min: 0, max: 1 } as const;

export function inspections(l: InterfaceLeaflet, parts: KitProfile["parts"]): KitProfile["inspections"] {
  const { needs = [], ground } = moduleSupply(l);
  const fed = needs.filter((n) => !n.where && n.at !== ground && !/ground/.test(n.say));
  const leads = parts.filter((p) => p.type === "lead" && /^video(In|Out)Lead/.test(p.id));
  return [
    ...fed.map(({ at, say, when }) => ({
      id: `supply-${at.replace(".", "-")}`,
      kind: "measure" as const,
      at: `module.${at}`,
      title: `Does ${say} stand at the plug of the module?`,
      how: "Ignition on. From behind, with the plug in: red on the contact, black on bare body.",
      minutes: 1.5,
      window: SUPPLIED,
      ...(when ? { when } : {}),
    })),
    ...leads.map(({ id, name, when }) => ({
      id: `whole-${id}`,
      kind: "measure" as const,
      at: id,
      title: `Is ${name} whole?`,
      how: "Both ends out. Each contact to the same contact of the other end, and none to its neighbour; move the lead meanwhile.",
      minutes: 2,
      window: WHOLE,
      ...(when ? { when } : {}),
    })),
  ];
}
