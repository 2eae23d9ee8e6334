import type { ELK, ElkNode } from "elkjs/lib/elk-api.js";
import type { DrawingGraph } from "~/core/connect/drawing";

/** Boxes and lines with their places, in pixels. */
export interface LaidOut {
  width: number;
  height: number;
  boxes: (DrawingGraph["boxes"][number] & { x: number; y: number; width: number; height: number })[];
  lines: (DrawingGraph["lines"][number] & { points: { x: number; y: number }[] })[];
}

const BOX = { height: 44, perCharacter: 8.2, padding: 26 };

/** Places boxes in layers from left to right and leads the lines round them. */
export async function layOut(elk: ELK, graph: DrawingGraph): Promise<LaidOut> {
  const wanted: ElkNode = {
    id: "system",
    layoutOptions: {
      "elk.algorithm": "layered",
      "elk.direction": "RIGHT",
      "elk.layered.spacing.nodeNodeBetweenLayers": "56",
      "elk.spacing.nodeNode": "18",
      "elk.edgeRouting": "ORTHOGONAL",
    },
    children: graph.boxes.map((b) => ({
      id: b.id,
      width: Math.max(90, b.name.length * BOX.perCharacter + BOX.padding),
      height: BOX.height,
    })),
    edges: graph.lines.map((l) => ({ id: l.id, sources: [l.from], targets: [l.to] })),
  };
  const placed = await elk.layout(wanted);
  const at = new Map(placed.children?.map((c) => [c.id, c]));
  const ways = new Map(placed.edges?.map((e) => [e.id, e.sections?.[0]]));
  return {
    width: placed.width ?? 0,
    height: placed.height ?? 0,
    boxes: graph.boxes.map((b) => {
      const { x = 0, y = 0, width = 0, height = 0 } = at.get(b.id) ?? {};
      return { ...b, x, y, width, height };
    }),
    lines: graph.lines.map((l) => {
      const section = ways.get(l.id);
      return { ...l, points: section ? [section.startPoint, ...(section.bendPoints ?? []), section.endPoint] : [] };
    }),
  };
}
