/** Plugs that are not home, turned over, exchanged, or in another socket. */
import type { Fault, Touched } from "../faults";
import { describePort } from "../labels";
import { matedContacts, mates } from "../mating";
import { findPort } from "../ports";
import type { Link, PortRef, System } from "../types";

/** How often, against the other kinds. Assumed as all of these weights. */
const WEIGHTS = { notHome: 8, untouched: 0.3, reversed: 6, exchanged: 6, otherSocket: 4, untouchedSocket: 0.1 };

export function plugFaults(system: System, touched: Touched): Fault[] {
  const plugs = system.links.filter((l) => !l.air);
  return [
    ...plugs.flatMap((l) => ownFaults(system, l, touched)),
    ...exchangeFaults(system, plugs),
    ...plugs.flatMap((l) => socketFaults(system, l, touched)),
  ];
}

function ownFaults(system: System, link: Link, touched: Touched): Fault[] {
  const ends = `${describePort(system, link.a)} – ${describePort(system, link.b)}`;
  const partsOf = [link.a, link.b].map((p) => p.split(".")[0] as string);
  const faults: Fault[] = [
    {
      id: `loose:${link.id}`,
      kind: "notPlugged",
      title: `Plug not home: ${ends}`,
      cause: "The plug is not pushed in until it clicks, or was pulled out when a panel went back.",
      remedy: `Plug in ${ends} until it clicks.`,
      parts: partsOf,
      links: [link.id],
      normal: false,
      weight: touched.links.has(link.id) ? WEIGHTS.notHome : WEIGHTS.untouched,
      disturbance: { openLinks: { [link.id]: `${ends} is not plugged.` } },
    },
  ];
  const port = findPort(system, link.a);
  if (port?.connector?.reversible) {
    faults.push({
      ...(faults[0] as Fault),
      id: `reversed:${link.id}`,
      kind: "reversed",
      title: `Inserted the wrong way round: ${ends}`,
      cause: "This connector accepts the plug both ways round.",
      remedy: `Turn the plug of ${ends} over.`,
      weight: WEIGHTS.reversed,
      disturbance: { reversedLinks: [link.id] },
    });
  }
  return faults;
}

function exchangeFaults(system: System, links: readonly Link[]): Fault[] {
  const faults: Fault[] = [];
  for (const [i, one] of links.entries()) {
    for (const two of links.slice(i + 1)) {
      if (!exchangeable(system, one, two)) continue;
      faults.push(exchangeFault(system, one, two));
    }
  }
  return faults;
}

/** Two connections can be exchanged when they sit on one part and each lead end also mates with the other's place. */
export function exchangeable(system: System, one: Link, two: Link): boolean {
  const [a1, b1, a2, b2] = [one.a, one.b, two.a, two.b].map((p) => findPort(system, p));
  if (!a1 || !b1 || !a2 || !b2) return false;
  const samePart = one.b.split(".")[0] === two.b.split(".")[0];
  return samePart && mates(a1, b2) === null && mates(a2, b1) === null && one.a.split(".")[0] !== two.a.split(".")[0];
}

function exchangeFault(system: System, one: Link, two: Link): Fault {
  const [x, y] = [describePort(system, one.b), describePort(system, two.b)];
  return {
    id: `exchanged:${one.id}+${two.id}`,
    kind: "exchanged",
    title: `Exchanged: ${x} and ${y}`,
    cause: "The two plugs fit in each other's place.",
    remedy: `Exchange the plugs at ${x} and ${y}.`,
    parts: [one, two].flatMap((l) => [l.a, l.b]).map((p) => p.split(".")[0] as string),
    links: [one.id, two.id],
    normal: false,
    weight: WEIGHTS.exchanged,
    disturbance: { movedLinks: { [one.id]: two.b, [two.id]: one.b } },
  };
}

/** The plug sits in another free socket of the same part, which takes it as well. */
function socketFaults(system: System, link: Link, touched: Touched): Fault[] {
  return freeSockets(system, link).map((socket) => {
    const [at, planned] = [describePort(system, socket), describePort(system, link.b)];
    return {
      id: `socket:${link.id}>${socket}`,
      kind: "otherSocket",
      title: `In another socket: ${at}, not ${planned}`,
      cause: "The plug goes into both.",
      remedy: `Move it from ${at} to ${planned}.`,
      parts: [link.a, link.b].map((p) => p.split(".")[0] as string),
      links: [link.id],
      normal: false,
      weight: touched.links.has(link.id) ? WEIGHTS.otherSocket : WEIGHTS.untouchedSocket,
      disturbance: { movedLinks: { [link.id]: socket } },
    };
  });
}

/** Sockets of the part at the far end in which nothing sits and into which the plug goes. */
function freeSockets(system: System, link: Link): PortRef[] {
  const plug = findPort(system, link.a);
  const [partId] = link.b.split(".");
  const part = system.parts.find((p) => p.id === partId);
  if (!plug?.connector || !part) return [];
  const taken = new Set(system.links.flatMap((l) => [l.a, l.b]));
  return part.ports.flatMap((port) => {
    const ref = `${partId}.${port.id}`;
    if (taken.has(ref) || mates(plug, port) !== null) return [];
    return matedContacts(plug, port, false).some(([, far]) => far) ? [ref] : [];
  });
}
