import { expose } from "comlink";
import ELK from "elkjs/lib/elk.bundled.js";
import { layOut } from "~/app/lib/lay-out";
import type { DrawingGraph } from "~/core/connect/drawing";

const elk = new ELK();
const api = { layOut: (graph: DrawingGraph) => layOut(elk, graph) };
export type SystemWorker = typeof api;
expose(api);
