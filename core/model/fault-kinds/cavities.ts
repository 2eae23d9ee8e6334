/** Single contacts of plugs that were opened: pushed back when they went home again, or in each other's cavity. */
import type { Fault, Touched } from "../faults";
import { describePort } from "../labels";
import { findPort } from "../ports";
import type { Contact, Link, Port, System } from "../types";

/** How often, against the other kinds; all contacts of a plug together. Assumed as all of these weights. */
const WEIGHTS = { pushedBack: 2, crossed: 1 };

/** Plugs of the loom that the work has touched, contact by contact. */
export function cavityFaults(system: System, touched: Touched): Fault[] {
  const loom = (port: string) => system.parts.some((p) => p.type === "loom" && port.startsWith(`${p.id}.`));
  return system.links
    .filter((l) => !l.air && touched.links.has(l.id) && (loom(l.a) || loom(l.b)))
    .flatMap((link) => {
      const [a, b] = [findPort(system, link.a), findPort(system, link.b)];
      if (!a || !b) return [];
      const shared = a.contacts.filter((c) => b.contacts.some((d) => d.id === c.id));
      if (shared.length < 2) return [];
      return [...shared.map((c) => pushedBack(system, link, c, shared.length)), ...crossings(system, link, b, shared)];
    });
}

function pushedBack(system: System, link: Link, { id, label }: Contact, of: number): Fault {
  const plug = describePort(system, link.a);
  return {
    id: `back:${link.id}/${id}`,
    kind: "pushedBack",
    title: `Contact ${id}${label ? ` (${label})` : ""} is pushed back in ${plug}`,
    cause: "It was not locked in its cavity and gave way when the plug went home.",
    remedy: `Push contact ${id} of ${plug} in until it locks; pull gently at its wire.`,
    parts: [],
    links: [link.id],
    normal: false,
    weight: WEIGHTS.pushedBack / of,
    disturbance: { cavities: { [link.id]: { [id]: null } } },
  };
}

/** Loudspeaker contacts of two corners in each other's cavities: left and right, or front and rear. */
function crossings(system: System, link: Link, socket: Port, shared: readonly Contact[]): Fault[] {
  const poles = new Map(
    shared.flatMap(({ id }): [string, string][] => {
      const label = socket.contacts.find((c) => c.id === id)?.label ?? "";
      return /^(left|right) (front|rear) (plus|minus)$/.test(label) ? [[label, id]] : [];
    }),
  );
  const at = (corner: string, pole: string) => poles.get(`${corner} ${pole}`);
  return PAIRS.flatMap(([one, two]): Fault[] => {
    const cavities: Record<string, string> = {};
    for (const pole of ["plus", "minus"]) {
      const [x, y] = [at(one, pole), at(two, pole)];
      if (x === undefined || y === undefined) return [];
      cavities[x] = y;
      cavities[y] = x;
    }
    return [
      {
        id: `crossed:${link.id}/${one}+${two}`,
        kind: "crossed",
        title: `Loudspeakers exchanged in the plug: ${one} and ${two}`,
        cause: "Their contacts sit in each other's cavities.",
        remedy: `Move the contacts ${Object.keys(cavities).join(", ")} of ${describePort(system, link.a)}; Prove shows how, in the walk with balance and fader.`,
        parts: [],
        links: [link.id],
        normal: false,
        weight: WEIGHTS.crossed / PAIRS.length,
        disturbance: { cavities: { [link.id]: cavities } },
      },
    ];
  });
}

const PAIRS = [
  ["left front", "right front"],
  ["left rear", "right rear"],
  ["left front", "left rear"],
  ["right front", "right rear"],
] as const;
