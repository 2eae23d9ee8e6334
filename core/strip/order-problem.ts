/** What an order of steps costs: tools taken up, ways around the car, connections put back. */
import type { Side, StepNeeds, StripPlan } from "../model/profile";
import { prepStepsTo, type VehicleStateGoal } from "./prep-path";
import { afterPrepSteps, type PrepStep, type VehicleState } from "./vehicle-state";

export interface Task {
  id: string;
  needs: StepNeeds;
  minutes: number;
  tool?: string;
  side?: Side;
  /** Positions in the list of the tasks that must be done before. */
  before: readonly number[];
  /** It needs the battery off but not the waiting time over: taking it off early lets other steps fill the wait. */
  early?: boolean;
}

/** Where the work stands when an order begins, and how the car shall stand at its end. */
export interface Setup {
  plan: StripPlan;
  stand: VehicleState;
  side?: Side;
  /** Minutes since the battery was taken off. */
  sinceOffMin?: number;
  end: VehicleStateGoal;
}

/** What an order costs beside the steps themselves. */
export interface OrderCost {
  /** PrepStep, tool changes, walks and waits, and an hour for each time the battery is connected again in between. */
  minutes: number;
  prepSteps: number;
  toolChanges: number;
  walks: number;
  /** Minutes in which nothing is left to do but wait for the airbags. */
  waitMin: number;
}

/** Minutes for another tool in the hand and for a walk round the car; common practice. */
const TOOL_MIN = 0.3;

const WALK_MIN = 0.5;

/** Connecting the battery with panels off and plugs open is to be avoided, not only slow. */
const RECONNECT_MIN = 60;

export interface Progress {
  stand: number;
  tool: number;
  side: number;
  since: number;
  minutes: number;
}

interface Way {
  to: number;
  prepSteps: PrepStep[];
}

/** Tables of one problem: stands and needs as numbers, ways between them found once. */
export class Problem {
  readonly n: number;
  private readonly stands: VehicleState[];
  private readonly goals: VehicleStateGoal[] = [];
  private readonly goalOf: number[];
  private readonly ways = new Map<number, Way | null>();
  private readonly words: string[] = [""];
  private readonly toolOf: number[];
  private readonly sideOf: number[];
  private readonly after: number[][];
  readonly start: Progress;
  private readonly end: number;
  private readonly wait: number;

  constructor(
    private readonly setup: Setup,
    readonly tasks: readonly Task[],
  ) {
    this.n = tasks.length;
    this.stands = [setup.stand];
    this.goalOf = tasks.map((t) => this.goal(t.needs));
    this.end = this.goal(setup.end);
    this.toolOf = tasks.map((t) => this.word(t.tool));
    this.sideOf = tasks.map((t) => this.word(t.side));
    this.after = tasks.map(() => []);
    for (const [i, t] of tasks.entries()) for (const b of t.before) this.after[b]?.push(i);
    this.wait = setup.plan.batteryWaitMin ?? 0;
    this.start = { stand: 0, tool: 0, side: this.word(setup.side), since: setup.sinceOffMin ?? 0, minutes: 0 };
  }

  /** True for a task that nobody can do with the battery off: the key on, or the selector that only it releases. */
  isLive(task: number): boolean {
    const { key, selector } = (this.tasks[task] as Task).needs;
    const pedal = this.setup.plan.selectorRelease !== "tab" && selector !== undefined && !selector.includes("P");
    return (key !== undefined && key !== "off") || pedal;
  }

  /** Minutes that are certain to come beside those of a place: a battery that is off and wanted on again. */
  toCome({ stand }: Progress, liveLeft: number): number {
    return liveLeft > 0 && this.stands[stand]?.battery === "isolated" ? RECONNECT_MIN : 0;
  }

  /** Tasks that wait for a task. */
  followers(task: number): readonly number[] {
    return this.after[task] as number[];
  }

  /** True when everything costs the same from two places on. */
  alike(a: Progress, b: Progress): boolean {
    return (
      a.stand === b.stand &&
      a.tool === b.tool &&
      a.side === b.side &&
      Math.abs(Math.min(a.since, this.wait) - Math.min(b.since, this.wait)) < 1e-9
    );
  }

  /** The place after a task, or null when no preparation step leads to a stand that allows it. */
  next(at: Progress, task: number, count?: OrderCost): Progress | null {
    const way = this.way(at.stand, this.goalOf[task] as number);
    if (!way) return null;
    const after = this.walk(at, way, count);
    const { needs, early } = this.tasks[task] as Task;
    if (needs.battery === "isolated" && !early && after.since < this.wait) {
      const idle = this.wait - after.since;
      after.minutes += idle;
      after.since = this.wait;
      if (count) count.waitMin += idle;
    }
    this.use(after, this.toolOf[task] as number, this.sideOf[task] as number, count);
    after.since += this.tasks[task]?.minutes ?? 0;
    return after;
  }

  /** Minutes to bring the car to the stand asked for at the end. */
  finish(at: Progress, count?: OrderCost): number | null {
    const way = this.way(at.stand, this.end);
    return way ? this.walk(at, way, count).minutes : null;
  }

  private walk(at: Progress, way: Way, count?: OrderCost): Progress {
    const after: Progress = { stand: way.to, tool: at.tool, side: at.side, since: at.since, minutes: at.minutes };
    for (const prepStep of way.prepSteps) {
      after.minutes += prepStep.minutes + (prepStep.id === "battery-on" ? RECONNECT_MIN : 0);
      this.use(after, this.word(prepStep.tool), this.word(prepStep.side), count);
      after.since = prepStep.id === "battery-off" ? 0 : after.since + prepStep.minutes;
      if (count) count.prepSteps++;
    }
    return after;
  }

  private use(now: Progress, tool: number, side: number, count?: OrderCost): void {
    if (tool !== 0 && tool !== now.tool) {
      now.minutes += TOOL_MIN;
      now.tool = tool;
      if (count) count.toolChanges++;
    }
    if (side !== 0 && side !== now.side) {
      if (now.side !== 0) {
        now.minutes += WALK_MIN;
        if (count) count.walks++;
      }
      now.side = side;
    }
  }

  private way(stand: number, goal: number): Way | null {
    const key = stand * 64 + goal;
    const known = this.ways.get(key);
    if (known !== undefined) return known;
    const from = this.stands[stand] as VehicleState;
    const path = prepStepsTo(this.setup.plan, from, this.goals[goal] as VehicleStateGoal);
    const way = path && {
      to: this.stand(afterPrepSteps(from, path)),
      prepSteps: path,
    };
    this.ways.set(key, way);
    return way;
  }

  private stand(stand: VehicleState): number {
    const same = this.stands.findIndex(
      (s) =>
        s.battery === stand.battery &&
        s.key === stand.key &&
        s.selector === stand.selector &&
        s.parkingBrake === stand.parkingBrake,
    );
    return same >= 0 ? same : this.stands.push(stand) - 1;
  }

  private goal(goal: VehicleStateGoal): number {
    const text = JSON.stringify([goal.battery, goal.key, goal.selector, goal.connected]);
    const same = this.goals.findIndex((g) => JSON.stringify([g.battery, g.key, g.selector, g.connected]) === text);
    return same >= 0 ? same : this.goals.push(goal) - 1;
  }

  private word(word: string | undefined): number {
    if (!word) return 0;
    const same = this.words.indexOf(word);
    return same >= 0 ? same : this.words.push(word) - 1;
  }

  /** Places with the same name cost the same from here on. */
  name(now: Progress): string {
    return `${now.stand}/${now.tool}/${now.side}/${Math.min(now.since, this.wait).toFixed(3)}`;
  }
}
