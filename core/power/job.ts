/** The figures of a job: what its kit adds, and the run from the feed to it. */
import { layerOf } from "../model/kinds";
import { locate } from "../model/labels";
import { Model } from "../model/outcome";
import type { Settings, Situation, System } from "../model/types";
import { type Draw, type Load, loadOf } from "./budget";

/** A module restarts under this supply when its profile does not say; common practice. */
const USUAL_MINIMUM_V = 9;

/**
 * What the parts of a kit draw beside what was there, as their profiles say. Parts without figures are not among them,
 * and neither is a part that takes the place of one of the car: a new radio draws about what the old one drew.
 */
export function addedDraws(stock: System, fitted: System, kitParts: ReadonlySet<string>): Draw[] {
  return fitted.parts.flatMap((p): Draw[] =>
    kitParts.has(p.id) && p.draws && !stock.parts.some((old) => old.id === p.id)
      ? [
          {
            id: p.id,
            name: p.name,
            onA: p.draws.onA,
            peakA: p.draws.peakA ?? p.draws.onA,
            sleepMa: p.draws.sleepMa ?? 0,
            duty: p.draws.duty ?? 1,
            minimumV: p.draws.minimumV ?? USUAL_MINIMUM_V,
          },
        ]
      : [],
  );
}

/** Names of added parts that are fed and of which nobody says what they draw: a load without them is too small. */
export function unknownDraws(stock: System, fitted: System, kitParts: ReadonlySet<string>): string[] {
  return fitted.parts
    .filter((p) => kitParts.has(p.id) && p.type === "device" && !p.draws && !stock.parts.some((old) => old.id === p.id))
    .filter((p) => p.needs?.some((n) => isSupply(fitted, `${p.id}.${n.at}`)))
    .map((p) => p.name);
}

function isSupply(system: System, ref: string): boolean {
  const kind = locate(system, ref).contact?.kind;
  return kind !== undefined && kind !== "ground" && layerOf(kind) === 0;
}

/** What the kit draws in one situation: the parts that have all they need, the rest asleep. */
export interface SituationLoad {
  id: string;
  label: string;
  steadyA: number;
  sleepMa: number;
  /** Names of the parts that are on. */
  on: string[];
}

const SITUATIONS: readonly { id: string; label: string; set: Partial<Situation> }[] = [
  { id: "asleep", label: "Car asleep", set: { key: "off" } },
  { id: "accessory", label: "Key in accessory", set: { key: "accessory" } },
  { id: "factory", label: "Ignition on, factory picture", set: { key: "on" } },
  { id: "phone", label: "Ignition on, phone picture", set: { key: "on", pictureMode: "phone", phone: "wireless" } },
  { id: "reverse", label: "Reverse", set: { key: "running", selector: "R" } },
  { id: "forward", label: "Just out of reverse", set: { key: "running", selector: "D", leftReverse: true } },
];

/** The load of the added parts by situation, asked of the behaviour model: who gets what it needs is on. */
export function loadBySituation(fitted: System, draws: readonly Draw[], settings: Settings): SituationLoad[] {
  const model = new Model(fitted, {}, settings);
  return SITUATIONS.map(({ id, label, set }) => {
    const situation = { ...fitted.defaultSituation, ...set };
    const on = draws.filter((d) => model.alive(d.id, situation));
    const asleep = draws.filter((d) => !on.includes(d));
    return {
      id,
      label,
      steadyA: on.reduce((n, d) => n + d.onA, 0),
      sleepMa: asleep.reduce((n, d) => n + d.sleepMa, 0),
      on: on.map((d) => d.name),
    };
  });
}

/** The load with every part on at once: what fuse and wire have to carry. */
export function wholeLoad(draws: readonly Draw[]): Load {
  return loadOf(draws.map((d) => ({ ...d, duty: 1 })));
}
