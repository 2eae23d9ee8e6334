import type { SwitchSolution } from "../configure/switches";
import { type Connection, orderConnections, type PlanBase } from "../connect/connection-plan";
import { type FirmwareFit, firmwareOf } from "../fit/firmware";
import { type Documents, firmwareOfKit, resolveFit } from "../fit/resolve-fit";
import type { JobState } from "../log/entry";
import { emptyJournal } from "../log/fold";
import { isFailure } from "../log/kinds/prove/result";
import { everDone } from "../log/strip-journal";
import { type Choices, conditionTest, kitPartIds, resolveChoices, sameEnds } from "../model/compose";
import type { Touched } from "../model/faults";
import { describePort } from "../model/labels";
import { oncePer } from "../model/once";
import { Model } from "../model/outcome";
import type { CarProfile, KitProfile, KitSetting, StripPlan, StripStep } from "../model/profile";
import type { Disturbance, Link, Settings, System } from "../model/types";
import { isFeedLink, withFeed } from "../power/feed-link";
import { roundOf, witnesses } from "../prove/rounds";
import { type Test, testList } from "../prove/tests";
import { stripBase } from "../strip/base";
import { planRoute, type StripBase } from "../strip/route";
import type { StripInput } from "../strip/view";
import { deliveredValue, isSet, type SetState, saidByFirmware, settingsOfPlaces } from "./set-state";
import { notTold } from "./translated-modules";

export type { Connection, Documents };

/** Everything that follows from the documents and the choices of a job, before anything was done. */
export interface JobPlan {
  documents: Documents;
  stock: System;
  fitted: System;
  switches: SwitchSolution | null;
  /** Options taken, and which conditions of the kit hold with them. */
  chosen: Choices;
  applies: ReturnType<typeof conditionTest>;
  /** Settings as they are to stand. */
  settings: Settings;
  /** What has to be coded, moved, loaded or chosen in a menu beside the switch bank. */
  sets: KitSetting[];
  /** Version in the radio, updates to make, and what they change. */
  firmware: FirmwareFit;
  tests: Test[];
  baseline: Test[];
  /** What the strip plan of the job follows from. */
  strip: Omit<StripBase, "measured">;
  /** What the order of the connections follows from. */
  base: PlanBase;
  /** Steps of the way in without what was added on the car. */
  steps: StripStep[];
  /** In the order of plugging. */
  connections: Connection[];
  touched: Touched;
}

/** What of a job's state its plan follows from. */
export type PlanState = Pick<JobState, "choices"> &
  Partial<Pick<JobState, "givenUp" | "feed" | "feedTests" | "placed" | "firmware">> & {
    car?: { firmware?: string };
    strip?: WayIn;
  };

/** What was wanted on the way into the car, and what was done. */
interface WayIn {
  wanted: ReadonlySet<string>;
  stepEvents: readonly { step: string }[];
}

/**
 * Plans a job: composes both systems, solves the switch bank, lists tests, steps and connections.
 *
 * @throws {ComposeError} {ModelError} {PlanError} when the documents do not go together
 */
export function planJob(documents: Documents, state: PlanState): JobPlan {
  const { car, kit } = documents;
  const choices = state.choices ?? {};
  const present = presentFirmware(documents, state);
  const came = state.firmware?.came ?? present;
  const { stock, fitted: composed, switches, settings } = resolveFit(documents, choices, state.givenUp, present, came);
  const firmware = firmwareOfKit(documents, stock, choices, present, came);
  const fitted = fedFrom(car, composed, state);
  const chosen = resolveChoices(kit, state.choices ?? {});
  const applies = conditionTest(car, stock, chosen);
  const strip = stripBase(documents, stock, chosen, state.placed);
  const steps = stepsOf(strip, state.strip);
  const sets = [...kit.sets.filter(applies), ...firmware.cures];
  const base: PlanBase = { car, kit, stock, fitted, applies, sets, strip: strip.plan, steps };
  const connections = orderConnections(base, listConnections(stock, fitted, kit, steps));
  return {
    documents,
    stock,
    fitted,
    switches,
    chosen,
    applies,
    settings,
    sets,
    firmware,
    base,
    tests: testList(fitted, settings),
    baseline: testList(stock, {}),
    strip,
    steps,
    connections,
    touched: {
      parts: kitPartIds(kit),
      links: new Set(connections.map((c) => c.link)),
      bank: kit.switchBank,
      planned: settings,
      sets,
    },
  };
}

/** The part of a state that its plan follows from. */
export function planState({ choices, givenUp, feed, feedTests, placed, car, firmware, strip }: JobState): PlanState {
  const way = { wanted: strip.wanted, stepEvents: [...everDone(strip)].map((step) => ({ step })) };
  return { choices, givenUp, feed, feedTests, placed, car: { firmware: car.firmware }, firmware, strip: way };
}

/** Version in the radio now: as it was last updated here, else as the car sheet says; empty while it is not known. */
function presentFirmware({ variant }: Documents, { car, firmware }: PlanState): string {
  return firmware?.version ?? firmwareOf(car?.firmware ?? "", variant);
}

/** What a plan follows from, as text: documents in their versions, and what of the state it looks at. */
export function planKey(documents: Documents, state: PlanState): string {
  const { car, variant, kit } = documents;
  const steps = [...(state.strip?.wanted ?? []), ...(state.strip ? openedSteps(car.stripPlan, state.strip) : [])];
  const feed = state.feed ? [state.feed, state.feedTests?.get(state.feed) ?? {}] : null;
  const ids = [car, variant, kit].map((d) => `${d.id}@${d.version}`);
  return JSON.stringify([
    ids,
    state.choices,
    state.givenUp ?? [],
    steps,
    feed,
    [...(state.placed ?? [])],
    presentFirmware(documents, state),
    state.firmware?.came,
  ]);
}

/** The system with the fuse position that was taken, where the kit wants one. */
function fedFrom(car: CarProfile, system: System, state: Partial<Pick<JobState, "feed" | "feedTests">>): System {
  const position = car.fusePanel?.find((p) => p.id === state.feed);
  if (!position || !system.links.some(isFeedLink)) return system;
  return withFeed(system, position, state.feedTests?.get(position.id) ?? {});
}

/** Steps of the way in: those chosen for the goals, those wanted, and those done that open a plug. */
function stepsOf(strip: JobPlan["strip"], journal: WayIn | undefined): StripStep[] {
  const wanted = new Set([...(journal?.wanted ?? []), ...(journal ? openedSteps(strip.plan, journal) : [])]);
  return planRoute({ ...strip, measured: {} }, { ...emptyJournal(), wanted }).steps;
}

/** Steps done on the car that open a factory plug; the plan of the connections depends on them. */
function openedSteps(plan: StripPlan, journal: WayIn): string[] {
  const ever = everDone(journal);
  return plan.steps.filter((s) => ever.has(s.id) && s.opens?.length).map((s) => s.id);
}

function listConnections(stock: System, fitted: System, kit: KitProfile, steps: readonly StripStep[]): Connection[] {
  const own: Connection[] = kit.plug
    .filter((k) => !k.air && fitted.links.some((l) => l.id === k.id))
    .map((k) => ({ link: k.id, say: k.say, kind: "kit", a: k.a, b: k.b }));
  const opened = steps.flatMap((s) => s.opens ?? []);
  const factory: Connection[] = stock.links
    .filter((l) => opened.some((o) => sameEnds(o, l)) && fitted.links.some((f) => f.id === l.id))
    .map((l) => ({
      link: l.id,
      say: `Factory plug back: ${describePort(stock, l.a)} – ${describePort(stock, l.b)}`,
      kind: "factory",
      a: l.a,
      b: l.b,
    }));
  return [...own, ...factory];
}

/**
 * What is not done yet: kit connections not marked, factory plugs opened by the steps done and not back, settings that
 * were not made and so stand as delivered, parts that lie on metal.
 */
export function openNow(plan: JobPlan, state: SetSoFar): Disturbance {
  return openIn(plan)(state);
}

type SetSoFar = Plugging & SetState & Pick<JobState, "placed">;

const openIn = oncePer((plan: JobPlan) => oncePer((state: SetSoFar) => whatIsOpen(plan, state)));

function whatIsOpen(plan: JobPlan, state: SetSoFar): Disturbance {
  const openLinks: Record<string, string> = {};
  for (const c of plan.connections) {
    if (isMade(plan, state, c)) continue;
    openLinks[c.link] = awaitsFeed(plan, state, c)
      ? "No fuse position is taken yet."
      : `${describePort(plan.fitted, c.a)} – ${describePort(plan.fitted, c.b)} is not plugged.`;
  }
  const settings: Record<string, string> = { ...settingsOfPlaces(plan, state), ...notTold(plan, state) };
  for (const setting of Object.keys(plan.firmware.settingsAfter)) {
    const value = saidByFirmware(plan, setting) ?? deliveredValue(plan.fitted, setting);
    if (value !== undefined) settings[setting] = value;
  }
  for (const set of plan.sets) {
    const delivered = deliveredValue(plan.fitted, set.setting);
    if (!isSet(plan, state, set) && delivered !== undefined) settings[set.setting] = delivered;
  }
  for (const [setting, value] of state.coded) settings[setting] = value;
  return { openLinks, settings };
}

/** True for a connection to the fuse panel while no position of it is taken. A car without a fuse map cannot tell. */
export function awaitsFeed(plan: JobPlan, { feed }: Pick<JobState, "feed">, c: Connection): boolean {
  return isFeedLink(c) && feed === null && (plan.documents.car.fusePanel?.length ?? 0) > 0;
}

/** What decides whether a connection is made. */
export type Plugging = Pick<JobState, "plugged" | "pluggedAfter" | "strip" | "feed">;

/**
 * True when a connection is made: plugged and not opened by a later step, or a factory plug that nobody has opened. The
 * one answer for Connect, Strip, the car state and the model.
 */
export function isMade(plan: JobPlan, state: Plugging, c: Connection): boolean {
  if (awaitsFeed(plan, state, c)) return false;
  const opened = lastOpened(plan, state, c);
  if (state.plugged.has(c.link)) return opened === null || opened < (state.pluggedAfter.get(c.link) ?? 0);
  return c.kind === "factory" && opened === null;
}

/** The car without the kit, as the steps done leave its plugs. */
export function factoryNow(plan: JobPlan, state: Plugging): Model {
  const open = plan.stock.links.filter((l) => lastOpened(plan, state, l) !== null);
  return new Model(plan.stock, { openLinks: Object.fromEntries(open.map((l) => [l.id, "It was taken off."])) });
}

/** Number of the step event that opened a factory connection; null when it is closed by the steps. */
function lastOpened(plan: JobPlan, { strip }: Plugging, ends: Pick<Link, "a" | "b">): number | null {
  return openings(plan)(strip).findLast((o) => sameEnds(o, ends))?.opened ?? null;
}

/** Every plug that the steps done have opened or closed, in their order. */
const openings = oncePer((plan: JobPlan) =>
  oncePer(({ stepEvents }: JobState["strip"]) =>
    stepEvents.flatMap(({ step, direction }, i) =>
      (plan.steps.find((s) => s.id === step)?.opens ?? []).map(({ a, b }) => ({
        a,
        b,
        opened: direction === "in" ? i : null,
      })),
    ),
  ),
);

/** What each connection of a job carries: the tests that look different without it, by link. */
export const carriedBy = oncePer((plan: JobPlan): ReadonlyMap<string, readonly Test[]> => {
  const links = plan.connections.map((c) => c.link);
  return witnesses(plan.fitted, plan.settings, plan.tests, links);
});

/** What the Strip surface computes from, beside the log. */
export function stripInput(
  plan: JobPlan,
  state: Plugging & SetState & Pick<JobState, "placed" | "results" | "pauses" | "lastAt">,
  measured: Record<string, number[]> = {},
): StripInput {
  const open = openNow(plan, state).openLinks ?? {};
  const ends = plan.steps.flatMap((s) => s.opens ?? []);
  const power = plan.documents.car.power;
  const bench = plan.tests.filter((t) => roundOf(t) === "bench");
  return {
    base: { ...plan.strip, measured },
    bench: {
      tests: bench.length,
      passed: bench.filter((t) => state.results.get(t.id)?.value === "pass").length,
      impossible: bench.filter((t) => state.results.get(t.id)?.value === "impossible").length,
      failing: plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value)).length,
      kitOpen: plan.connections.filter((c) => c.kind === "kit" && c.link in open).length,
    },
    quiet: { pauses: [...state.pauses], lastAt: state.lastAt },
    home: ends.filter((e) => isHome(plan, state, e)).map((e) => e.b),
    ...(power ? { power } : {}),
  };
}

/**
 * A factory plug counts as home once it, or everything the kit puts in its place, was plugged and still is. One that
 * nobody has opened yet is not: a device may open it on top of this.
 */
function isHome(plan: JobPlan, state: Plugging, ends: Pick<Link, "a" | "b">): boolean {
  const back = plan.connections.filter((c) => [c.a, c.b].some((p) => p === ends.a || p === ends.b));
  return back.length > 0 && back.every((c) => state.plugged.has(c.link) && isMade(plan, state, c));
}
