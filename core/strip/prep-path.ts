/** The quickest way from one state of the car to another: battery, key, selector, brake. */
import Graph from "graphology";
import { singleSource } from "graphology-shortest-path/dijkstra.js";
import type { StepNeeds, StripPlan } from "../model/profile";
import { allows, type PrepStep, possible, prepSteps, type VehicleState } from "./vehicle-state";

/** A goal in the space of stands: what the next step needs, and whether the battery must be on at the end. */
export type VehicleStateGoal = StepNeeds & { connected?: boolean };

function reached(stand: VehicleState, goal: VehicleStateGoal): boolean {
  return allows(stand, goal) && (!goal.connected || stand.battery === "connected");
}

/**
 * The quickest preparation steps from a state of the car to one in which a goal is met; null when none allows it: the
 * shortest path over the states, with the minutes of the steps as length.
 */
export function prepStepsTo(plan: StripPlan, from: VehicleState, goal: VehicleStateGoal): PrepStep[] | null {
  const known = found.get(plan) ?? new Map<string, PrepStep[] | null>();
  found.set(plan, known);
  const key = `${nameOf(from)}>${goal.battery ?? ""}/${goal.key ?? ""}/${goal.selector?.join() ?? ""}/${goal.connected ?? ""}`;
  let steps = known.get(key);
  if (steps === undefined) {
    steps = quickest(plan, from, goal);
    known.set(key, steps);
  }
  return steps;
}

/** Orders are tried by the thousand and ask for the same few again and again. */
const found = new WeakMap<StripPlan, Map<string, PrepStep[] | null>>();

function quickest(plan: StripPlan, from: VehicleState, goal: VehicleStateGoal): PrepStep[] | null {
  if (reached(from, goal)) return [];
  const graph = stateGraph(plan, from);
  let best: { steps: PrepStep[]; minutes: number } | null = null;
  for (const names of Object.values(singleSource(graph, nameOf(from), "minutes"))) {
    if (!reached(graph.getNodeAttribute(names.at(-1), "state"), goal)) continue;
    const edges = names.slice(1).map((name, i) => graph.getEdgeAttributes(graph.edge(names[i], name)));
    const minutes = edges.reduce((sum, e) => sum + e.minutes, 0);
    if (!best || minutes < best.minutes) best = { minutes, steps: edges.map((e) => e.step) };
  }
  return best?.steps ?? null;
}

type StateGraph = Graph<{ state: VehicleState }, { step: PrepStep; minutes: number }>;

const graphs = new WeakMap<StripPlan, StateGraph>();

/** The states that can be reached, joined by the quickest step between each two; grows when asked from a new one. */
function stateGraph(plan: StripPlan, from: VehicleState): StateGraph {
  const graph = graphs.get(plan) ?? new Graph({ type: "directed", multi: false });
  graphs.set(plan, graph);
  if (graph.hasNode(nameOf(from))) return graph;
  const open = [from];
  graph.addNode(nameOf(from), { state: from });
  // The list grows while it is walked.
  for (const state of open) {
    for (const step of prepSteps(plan).values()) {
      if (!possible(plan, state, step)) continue;
      const next = { ...state, ...step.sets };
      const [a, b] = [nameOf(state), nameOf(next)];
      if (a === b) continue;
      const minutes = step.minutes + (step.id === "battery-off" ? (plan.batteryWaitMin ?? 0) : 0);
      if (!graph.hasNode(b)) {
        graph.addNode(b, { state: next });
        open.push(next);
      }
      const other = graph.edge(a, b);
      if (!other || minutes < graph.getEdgeAttribute(other, "minutes")) graph.mergeEdge(a, b, { step, minutes });
    }
  }
  return graph;
}

function nameOf(stand: VehicleState): string {
  return `${stand.battery}/${stand.key}/${stand.selector}/${stand.parkingBrake}`;
}
