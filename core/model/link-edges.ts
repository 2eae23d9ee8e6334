/** The steps through a connection, from the contacts that touch as its plug sits. */
import { ModelError } from "./errors";
import { type Cavities, matedContacts } from "./mating";
import { oncePer } from "./once";
import type { PlacedPort, Step } from "./part-graph";
import type { Link } from "./types";

/** How the plug of a link sits at its far end. */
export interface Seat {
  /** The port, which may be another than the planned one. */
  b: string;
  reversed: boolean;
  cavities?: Cavities;
}

/**
 * The steps through a link, both ways.
 *
 * @param put takes each
 * @param seat how it sits at its far end
 */
export function linkEdges(
  put: (from: number, to: number, step: Step) => void,
  link: Link,
  { b, reversed, cavities }: Seat,
  ports: ReadonlyMap<string, PlacedPort>,
  firstOf: ReadonlyMap<string, number>,
): void {
  const [portA, portB] = [ports.get(link.a), ports.get(b)];
  if (!portA || !portB) {
    throw new ModelError(
      `link ${link.id}`,
      `there is no port ${portA ? b : link.a}.`,
      "Name ports that exist in the system.",
    );
  }
  const [firstA, firstB] = [firstOf.get(portA.part) ?? 0, firstOf.get(portB.part) ?? 0];
  const pairs = matedNodes(portA, portB, reversed, cavities);
  if (pairs.length === 0 && !cavities) {
    throw new ModelError(
      `link ${link.id}`,
      `${link.a} and ${b} have no contact in common.`,
      "Use the same contact identifiers on both halves.",
    );
  }
  const step: Step = { kind: "link", owner: link.id, join: -1, set: null, settleMs: 0 };
  for (let i = 0; i < pairs.length; i += 2) {
    const [x, y] = [firstA + (pairs[i] as number), firstB + (pairs[i + 1] as number)];
    put(x + 1, y, step);
    put(y + 1, x, step);
  }
}

const mated = oncePer((a: PlacedPort) => oncePer((b: PlacedPort): readonly number[] => touching(a, b, false)));

/** Nodes that touch, counted from the first of each part: one of the first port, one of the second, and so on. */
function matedNodes(a: PlacedPort, b: PlacedPort, reversed: boolean, cavities?: Cavities): readonly number[] {
  return reversed || cavities ? touching(a, b, reversed, cavities) : mated(a)(b);
}

function touching(a: PlacedPort, b: PlacedPort, reversed: boolean, cavities?: Cavities): number[] {
  return matedContacts(a.port, b.port, reversed, cavities).flatMap(([x, y]) => {
    const [from, to] = [a.nodes.get(x.id), y && b.nodes.get(y.id)];
    return from === undefined || to === undefined ? [] : [from, to];
  });
}
