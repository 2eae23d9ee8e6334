/** Random systems, situations and disturbances, for holding one evaluator against another. */
import { mergeDisturbances } from "../../core/model/disturbance";
import type { SignalKind } from "../../core/model/kinds";
import { layerOf } from "../../core/model/kinds";
import {
  type AssumedState,
  type Condition,
  type Contact,
  DEFAULT_SITUATION,
  type Disturbance,
  type Part,
  type Situation,
  type System,
} from "../../core/model/types";
import { randomFrom } from "../../core/strip/random-plan";

const KINDS: readonly SignalKind[] = ["battery", "can", "can", "trigger", "serialVideo", "speaker"];
const PICTURES = ["radio", "module", "rear"];
const MESSAGES = ["key", "reverse"];

class Dice {
  private readonly next: () => number;
  constructor(seed: number) {
    this.next = randomFrom(seed);
  }
  below(n: number): number {
    return Math.floor(this.next() * n);
  }
  chance(p: number): boolean {
    return this.next() < p;
  }
  pick<T>(list: readonly T[]): T {
    return list[this.below(list.length)] as T;
  }
  some<T>(list: readonly T[], p: number): T[] {
    return list.filter(() => this.chance(p));
  }
}

/** A system of some parts that are linked at random. Every port has the contacts 1 to 4 of the same kinds. */
export function randomSystem(seed: number, parts = 6): System {
  const dice = new Dice(seed);
  const list = Array.from({ length: parts }, (_, i) => randomPart(dice, i));
  const ports = list.flatMap((p) => p.ports.filter((x) => !x.inside).map((x) => `${p.id}.${x.id}`));
  const links = Array.from({ length: parts + 2 }, (_, i) => ({
    id: `l${i}`,
    a: dice.pick(ports),
    b: dice.pick(ports),
    ...(dice.chance(0.15) ? { reversed: true } : {}),
  })).filter((l) => l.a !== l.b);
  const contacts = list.flatMap((p) => p.ports.flatMap((x) => x.contacts.map((c) => `${p.id}.${x.id}.${c.id}`)));
  const actor = dice.pick(list);
  return {
    parts: list,
    links,
    functions: Array.from({ length: 6 }, (_, i) => ({
      id: `f${i}`,
      name: `Function ${i}`,
      say: "",
      who: "customer" as const,
      observe: Array.from({ length: 1 + dice.below(2) }, () => ({
        at: dice.pick(contacts),
        where: dice.pick<Record<string, string>>([
          {},
          { picture: dice.pick(PICTURES) },
          { message: dice.pick(MESSAGES), line: "high" },
        ]),
      })),
      situations: [
        { id: "a", label: "a", set: randomSituation(dice), ...(dice.chance(0.4) ? { actions: ["hold"] } : {}) },
        { id: "b", label: "b", set: randomSituation(dice) },
      ],
      ...(dice.chance(0.5) ? { withinMs: 100 * dice.below(8) } : {}),
      minutes: 1,
    })),
    actions: [
      {
        id: "hold",
        say: "Hold the key",
        part: actor.id,
        press: "home",
        holdS: { min: 1 + dice.below(3), max: 5 },
        when: randomCondition(dice, actor, 3),
        set: { pictureMode: "phone" },
      },
    ],
    assumed: [],
    defaultSituation: DEFAULT_SITUATION,
    ...(dice.chance(0.5) ? { settings: { [`${list[0]?.id}.mode`]: "b" } } : {}),
  };
}

function randomPart(dice: Dice, i: number): Part {
  const id = `p${i}`;
  const contacts = (): Contact[] =>
    ["1", "2", "3", "4"].map((c, n) => ({
      id: c,
      kind: n === 1 ? "can" : n === 2 ? "can" : dice.pick(KINDS),
      direction: "wire",
    }));
  const ports: Part["ports"] = [
    { id: "x", label: "x", contacts: contacts() },
    { id: "y", label: "y", contacts: contacts() },
    ...(dice.chance(0.4) ? [{ id: "in", label: "inside", inside: true, contacts: contacts() }] : []),
  ];
  const lead = dice.chance(0.3);
  const part: Part = {
    id,
    name: `Part ${i}`,
    type: lead ? "lead" : "device",
    ports,
    settings: [{ id: "mode", label: "Mode", values: ["a", "b"], initial: "a" }],
    buses: [{ id: "bus", high: "x.2", low: "x.3" }],
    joins: dice
      .some(
        [
          ["x.1", "y.1"],
          ["x.2", "y.2"],
          ["x.3", "y.3"],
          ["x.4", "y.4", "y.1"],
        ],
        lead ? 0.8 : 0.3,
      )
      .map((c) => ({ contacts: c })),
  };
  if (lead) return part;
  const places = ports.flatMap((p) => p.contacts.map((c) => ({ at: `${p.id}.${c.id}`, layer: layerOf(c.kind) })));
  const condition = (layer: number): { when?: Condition } =>
    dice.chance(0.6) ? { when: randomCondition(dice, part, layer) } : {};
  part.sources = dice.some(places, 0.25).map((p, n) => ({
    id: `s${n}`,
    at: [p.at],
    ...(dice.chance(0.6) ? { attributes: { picture: dice.pick(PICTURES) } } : {}),
    ...condition(p.layer),
    ...(dice.chance(0.5) ? { settleMs: 100 * dice.below(5) } : {}),
  }));
  part.messages = dice.some(MESSAGES, 0.4).map((name) => ({ bus: "bus", name, ...condition(1) }));
  part.routes = Array.from({ length: dice.below(6) }, (_, n) => {
    const from = dice.pick(places);
    const to = dice.pick(places.filter((p) => p.layer >= from.layer));
    return {
      id: `r${n}`,
      from: from.at,
      to: to.at,
      ...condition(to.layer),
      ...(dice.chance(0.3) ? { set: { picture: dice.pick(PICTURES) } } : {}),
      ...(dice.chance(0.5) ? { settleMs: 100 * dice.below(4) } : {}),
    };
  });
  const supply = places.filter((p) => p.layer === 0);
  if (supply.length > 0 && dice.chance(0.4)) part.needs = [{ at: dice.pick(supply).at, say: "a feed" }];
  return part;
}

/** A condition that may stand in front of a target of a layer: later layers are not named, its own is not denied. */
function randomCondition(dice: Dice, part: Part, layer: number, depth = 0): Condition {
  const places = part.ports.flatMap((p) => p.contacts.map((c) => ({ at: `${p.id}.${c.id}`, of: layerOf(c.kind) })));
  const seen = places.filter((p) => p.of <= layer);
  const earlier = places.filter((p) => p.of < layer);
  const present = (list: typeof places): Condition => ({
    present: dice.pick(list).at,
    ...(dice.chance(0.3) ? { where: { picture: dice.pick(PICTURES) } } : {}),
  });
  switch (dice.below(depth > 2 ? 5 : 8)) {
    case 0:
      return { situation: "pictureMode", is: [dice.pick(["factory", "phone"])] };
    case 1:
      return { situation: "speedKmh", [dice.pick(["atMost", "atLeast"])]: 5 } as Condition;
    case 2:
      return { setting: "mode", is: [dice.pick(["a", "b"])] };
    case 3:
      return seen.length > 0 ? present(seen) : { situation: "lights", is: [true] };
    case 4:
      return layer >= 1 ? { hears: dice.pick(MESSAGES), bus: "bus" } : { situation: "key", is: ["on"] };
    case 5:
      return { not: earlier.length > 0 ? present(earlier) : { situation: "selector", is: ["R"] } };
    default: {
      const both = [0, 1].map(() => randomCondition(dice, part, layer, depth + 1));
      return dice.chance(0.5) ? { all: both } : { any: both };
    }
  }
}

function randomSituation(dice: Dice): Partial<Situation> {
  return {
    ...(dice.chance(0.5) ? { pictureMode: dice.pick(["factory", "phone"] as const) } : {}),
    ...(dice.chance(0.4) ? { selector: dice.pick(["P", "R"] as const) } : {}),
    ...(dice.chance(0.4) ? { key: dice.pick(["off", "on", "running"] as const) } : {}),
    ...(dice.chance(0.3) ? { speedKmh: dice.below(12) } : {}),
    ...(dice.chance(0.3) ? { lights: true } : {}),
    ...(dice.chance(0.2) ? { heldS: dice.below(4) } : {}),
  };
}

/** One to three things that are wrong at once. */
export function randomDisturbance(seed: number, system: System): Disturbance {
  const dice = new Dice(seed);
  const link = () => dice.pick(system.links).id;
  const part = () => dice.pick(system.parts);
  const wrong: Disturbance[] = Array.from({ length: 1 + dice.below(3) }, (): Disturbance => {
    switch (dice.below(9)) {
      case 0:
        return { openLinks: { [link()]: "It is not plugged." } };
      case 1: {
        const p = part();
        const join = dice.chance(0.5) ? `${p.id}/${dice.below(3)}` : p.id;
        return { openJoins: { [join]: `${p.name} is open at ${join}.` } };
      }
      case 2:
        return { deadParts: { [part().id]: "It does nothing." } };
      case 3:
        return { reversedLinks: [link()] };
      case 4: {
        const [one, two] = [dice.pick(system.links), dice.pick(system.links)];
        return one.id === two.id ? {} : { movedLinks: { [one.id]: two.b, [two.id]: one.b } };
      }
      case 5: {
        const one = dice.pick(system.links);
        return { movedLinks: { [one.id]: dice.pick(system.links).b } };
      }
      case 6: {
        const contacts = ["1", "2", "3"];
        const cavities = { [dice.pick(contacts)]: dice.chance(0.5) ? null : dice.pick(contacts) };
        return { cavities: { [link()]: cavities } };
      }
      case 7:
        return { settings: { [`${part().id}.mode`]: dice.pick(["a", "b"]) } };
      default:
        return { assumed: [{ where: { pictureMode: "phone" }, set: { lights: true } } as unknown as AssumedState] };
    }
  });
  return mergeDisturbances(wrong);
}
