/** The way into the car, with what is plugged beside it. */
import type { ConnectTask } from "../../connect/connection-plan";
import { isFeedLink } from "../../power/feed-link";
import { reaches } from "../../strip/goals";
import { waitLeftMin } from "../../strip/hazards";
import type { Task } from "../../strip/route";
import type { StripView } from "../../strip/view";
import { type Beside, weave } from "../../strip/weave";
import type { Job } from "../job";
import { unlocked } from "../locks";
import { awaitsFeed, type Connection, openNow } from "../plan";
import { isSet } from "../set-state";
import { connectTasks, isTaskDone, stepOf } from "../tasks";
import type { Act } from "./act";

/** Minutes of one plug, one end wrapped, one contact moved. Our assumptions. */
const MINUTES = { unplug: 1, park: 1, move: 3, cut: 5, plug: 2 };

interface Work extends Beside {
  act: Act;
}

/** Steps that are left and what is plugged, in one order; into the wait for the airbags comes what can be reached. */
export function* wayIn(job: Job, view: StripView, now: string): Generator<Act> {
  const { plan } = view.route;
  const wait = { now: waitLeftMin(view.car, plan, now), each: plan.batteryWaitMin ?? 0 };
  for (const next of weave(view.left, plugging(job), wait))
    yield "task" in next ? wayInStep(next.task) : next.beside.act;
}

export function wayInStep(task: Task): Act {
  return {
    stage: "strip",
    at: task.id,
    action: task.title,
    why: task.caution ?? task.detail,
    does: { kind: "step", task, direction: "in" },
    minutes: task.minutes.likely,
  };
}

/** What is still to be done with plugs and contacts, in its order. */
function plugging(job: Job): Work[] {
  const { plan, state } = job;
  const open = openNow(plan, state).openLinks ?? {};
  const left = plan.connections.filter((c) => c.link in open);
  const tasks = connectTasks(job);
  const reachedBy = (ports: readonly string[]) =>
    plan.steps.filter((s) => ports.some((p) => reaches(s, { id: p, say: p, ports: [p] }))).map((s) => s.id);
  const bars = unlocked(plan, state).map((c) => lockBar(c));
  const before = tasks.flatMap((t): Work[] => {
    if (t.kind === "plug" || isTaskDone(plan, state, t)) return [];
    // What a step takes off comes off with it.
    if (t.kind === "unplug" && stepOf(plan, t)) return [];
    const set = t.setting && plan.sets.find((s) => s.setting === t.setting);
    if (set && isSet(plan, state, set)) return [];
    const after = reachedBy(t.ports);
    return [{ id: t.id, minutes: MINUTES[t.kind], after, behind: [], fills: t.supply === "keyOff", act: taskAct(t) }];
  });
  const plugs = left.map((c): Work => {
    const task = tasks.find((t) => t.link === c.link);
    const first = before.filter((b) => {
      const { does } = b.act;
      return does.kind === "task" && does.task.ports.some((p) => p === c.a || p === c.b);
    });
    return {
      id: c.link,
      minutes: MINUTES.plug,
      after: reachedBy([c.a, c.b]),
      behind: first.map((f) => f.id),
      fills: task?.supply === "keyOff" && !task.last,
      act: plugAct(job, c, left.length),
    };
  });
  return [...bars, ...before, ...plugs];
}

function lockBar(connection: Connection): Work {
  return {
    id: `lock ${connection.link}`,
    minutes: 0.5,
    after: [],
    behind: [],
    fills: true,
    act: {
      stage: "connect",
      at: connection.link,
      action: `Shut the lock bar: ${connection.say}`,
      why: "A ribbon that is not locked slides out; nothing is switched on before.",
      does: { kind: "lock", connection },
      minutes: 0.5,
    },
  };
}

function taskAct(task: ConnectTask): Act {
  return {
    stage: "connect",
    at: task.setting ?? task.id,
    action: task.say,
    why: task.setting ? "Contacts are moved before their plug goes in; after it the plug comes out again." : task.why,
    does: { kind: "task", task },
    minutes: MINUTES[task.kind],
  };
}

function plugAct(job: Job, c: Connection, left: number): Act {
  if (isFeedLink(c) && awaitsFeed(job.plan, job.state, c))
    return {
      stage: "connect",
      page: "feed",
      action: "Find a switched feed at the fuse panel",
      why: "The tester decides which position may be used; Connect, Feed asks the questions.",
      does: { kind: "page" },
      minutes: 10,
    };
  return {
    stage: "connect",
    at: c.link,
    action: c.say,
    why: `${left === 1 ? "1 connection" : `${left} connections`} left before the bench test.`,
    does: { kind: "plug", connection: c, task: connectTasks(job).find((t) => t.link === c.link) },
    minutes: MINUTES.plug,
  };
}
