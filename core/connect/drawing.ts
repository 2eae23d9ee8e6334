import { layerOf, type SignalKind } from "../model/kinds";
import { findPort } from "../model/ports";
import type { System } from "../model/types";

/** Strokes, not colours, tell the layers apart; content is drawn through. */
export const LAYER_DASHES: readonly (string | undefined)[] = ["2 4", "8 4", undefined];

/** A system as boxes and lines, before anybody decides where they stand. */
export interface DrawingGraph {
  boxes: { id: string; name: string; type: "device" | "lead" | "loom"; ofKit: boolean }[];
  lines: {
    id: string;
    from: string;
    to: string;
    kinds: SignalKind[];
    layer: number;
    air: boolean;
    ofKit: boolean;
  }[];
}

/**
 * Boxes for parts and lines for connections. The layer of a line is that of its latest signal, so that a picture
 * lead with a ground in it counts as a picture lead.
 *
 * @param kitParts parts that the kit brings
 */
export function drawingGraph(system: System, kitParts: ReadonlySet<string>): DrawingGraph {
  const joined = new Set(system.links.flatMap((l) => [l.a, l.b].map((p) => p.split(".")[0] as string)));
  return {
    boxes: system.parts
      .filter((p) => joined.has(p.id))
      .map((p) => ({ id: p.id, name: p.name, type: p.type, ofKit: kitParts.has(p.id) })),
    lines: system.links.map((l) => {
      const [from = "", to = ""] = [l.a, l.b].map((p) => p.split(".")[0]);
      const kinds = [...new Set((findPort(system, l.a)?.contacts ?? []).map((c) => c.kind))];
      return {
        id: l.id,
        from,
        to,
        kinds,
        layer: Math.max(0, ...kinds.map(layerOf)),
        air: l.air ?? false,
        ofKit: kitParts.has(from) || kitParts.has(to),
      };
    }),
  };
}

/** The drawing with lines of some layers alone, and the boxes that these lines join. */
export function onlyLayers(graph: DrawingGraph, layers: readonly number[]): DrawingGraph {
  return onlyLines(graph, (l) => layers.includes(l.layer));
}

/** The drawing with lines that carry one kind of signal alone. */
export function onlyKind(graph: DrawingGraph, kind: SignalKind): DrawingGraph {
  return onlyLines(graph, (l) => l.kinds.includes(kind));
}

/** A part with what is connected to it, a lead with what is at its other ends. */
export function aroundPart(graph: DrawingGraph, part: string): DrawingGraph {
  const at = new Set([part]);
  for (const { from, to } of graph.lines) {
    if (from !== part && to !== part) continue;
    const other = graph.boxes.find((b) => b.id === (from === part ? to : from));
    if (other?.type === "lead") at.add(other.id);
  }
  return onlyLines(graph, (l) => at.has(l.from) || at.has(l.to));
}

function onlyLines(graph: DrawingGraph, keep: (line: DrawingGraph["lines"][number]) => boolean): DrawingGraph {
  const lines = graph.lines.filter(keep);
  const joined = new Set(lines.flatMap((l) => [l.from, l.to]));
  return { boxes: graph.boxes.filter((b) => joined.has(b.id)), lines };
}
