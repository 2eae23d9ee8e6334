import { plugState } from "../configure/programming-plug";
import { compareSwitches } from "../configure/switches";
import { isCarried } from "../connect/carried";
import { lengthsOf } from "../lengths/job";
import type { JobState } from "../log/entry";
import type { OpenPointFact } from "../log/facts";
import { isFailure } from "../log/kinds/prove/result";
import { countWords, lowerFirst } from "../model/labels";
import { codeWords, compareCodes } from "../prove/codes";
import type { Test } from "../prove/tests";
import { smallParts } from "../strip/fasteners";
import { isBlank } from "./blank";
import { cameraPoints, cameraStands, camerasOf } from "./cameras";
import { doNotSwitchOn } from "./car-state";
import { changedSince } from "./changed-since";
import type { Job } from "./job";
import { unlocked } from "./locks";
import { phonesOf } from "./phones";
import { type JobPlan, openNow } from "./plan";
import { hasModule, noSupply } from "./power-now";
import { openTests } from "./rounds";
import { brokenSequences } from "./sequences";
import { isSet } from "./set-state";
import { signatureOf, unsignedWords } from "./signature";
import { jobWalk } from "./speaker-walk";
import { connectTasks, isTaskDone } from "./tasks";
import { touchOf, touchTests } from "./touch";
import { failedUses } from "./uses";

/** One function before and after the job. `new` came with the kit, `given up` was lost on purpose. */
export interface ReportLine {
  id: string;
  name: string;
  label: string;
  before: string | "new" | null;
  after: string | "given up" | null;
}

export interface HandoverReport {
  lines: ReportLine[];
  /** What is not as it should be when the car leaves, and what was noted for the customer. */
  openPoints: OpenPoint[];
}

/** Something that is open when the car leaves. */
export interface OpenPoint extends OpenPointFact {
  id: string;
  /** Entry that noted it; null for what the job computes. */
  entry: string | null;
  /** Why it may stay open, by whom; null while nobody said so of just this. */
  accepted: { reason: string; by: string; entry: string } | null;
}

/**
 * Compares the baseline with the last tests and lists what is still open.
 *
 * @param now ISO 8601, UTC
 */
export function handoverReport(job: Job, now: string): HandoverReport {
  const { plan, state } = job;
  const baseline = plan.baseline.map((t): ReportLine => {
    const test = plan.tests.some((x) => x.id === t.id);
    return {
      id: t.id,
      name: t.fn.name,
      label: t.label,
      before: state.baseline.get(t.id)?.value ?? null,
      after: test ? (state.results.get(t.id)?.value ?? null) : "given up",
    };
  });
  const added = plan.tests
    .filter((t) => !plan.baseline.some((b) => b.id === t.id))
    .map(
      (t): ReportLine => ({
        id: t.id,
        name: t.fn.name,
        label: t.label,
        before: "new",
        after: state.results.get(t.id)?.value ?? null,
      }),
    );
  return { lines: [...added, ...baseline], openPoints: openPoints(job, now) };
}

/**
 * What is open. Once the job is closed these are the points with which it was closed.
 *
 * @param now ISO 8601, UTC
 */
export function openPoints(job: Job, now: string): OpenPoint[] {
  const { state } = job;
  if (state.closed) {
    const { openPoints: texts, told } = state.closed;
    const kept = { entry: null, accepted: null, level: "told" } as const;
    return texts.map((text) => ({ ...kept, id: text, text, customer: told.includes(text) }));
  }
  const computed = [...notReady(job, now), ...maybeOpen(job, now)].map(({ text, ...point }): OpenPoint => {
    const said = state.accepted.get(point.id);
    const accepted = said?.text === text ? { reason: said.reason, by: said.by, entry: said.entry } : null;
    return { ...point, text, entry: null, accepted };
  });
  const noted = state.points.map(
    (p): OpenPoint => ({ id: p.entry, text: p.text, entry: p.entry, level: "told", customer: true, accepted: null }),
  );
  return [...computed, ...noted];
}

type Computed = Omit<OpenPoint, "entry" | "accepted">;

const named = (tests: readonly Test[]) => tests.map((t) => `${t.fn.name} (${t.label})`).join(", ");

/** With any of these the car is not ready, whatever somebody says. */
function notReady(job: Job, now: string): Computed[] {
  const { plan, state } = job;
  const { car, screwsOut } = job.strip(now);
  const points: Computed[] = [];
  const add = (id: string, text: string) => points.push({ id, text, level: "blocks", customer: true });
  if (car.panelsOff.length > 0) add("panels", `Still off: ${car.panelsOff.join(", ")}.`);
  if (screwsOut > 0) add("screws", `${countWords(screwsOut, "fastener is", "fasteners are")} still out.`);
  if (car.plugsOpen.length > 0)
    add("plugs", `${countWords(car.plugsOpen.length, "factory plug is", "factory plugs are")} still open.`);
  const { kit } = plan.documents;
  if (kit.programmingPlug && plugState(state.plugEvents, kit.programmingPlug).inSocket)
    add("programming-plug", "The programming plug is still in the diagnostic socket.");
  if (car.battery === "isolated") add("battery", "The battery is still isolated.");
  if (car.selector !== "P" && !car.parkingBrake)
    add("selector", `The selector is in ${car.selector}, the brake is off.`);
  for (const { where, text } of doNotSwitchOn(job)) add(`wrong ${where}`, `${where}: ${text}`);
  for (const { link, say } of unlocked(plan, state)) add(`lock ${link}`, `${say}: its lock bar is not shut.`);
  if (isBlank(kit)) return points;
  const unpowered = hasModule(plan) && car.battery !== "isolated" ? noSupply(plan, state, car) : null;
  if (unpowered) add("power", `The module has no power. ${unpowered}`);
  const { running, interrupted } = state.firmware;
  if (running || interrupted) add("firmware", "The update of the firmware has not come to its end.");
  const law = plan.tests.filter((t) => t.fn.who === "law" && state.results.get(t.id)?.value !== "pass");
  const failing = law.filter((t) => isFailure(state.results.get(t.id)?.value));
  if (failing.length > 0) add("law", `The law asks for it and it does not work: ${named(failing)}.`);
  const untried = law.filter((t) => !failing.includes(t));
  if (untried.length > 0) add("law-untried", `The law asks for it and it was not tried: ${named(untried)}.`);
  if (!state.codesAfter) add("codes", "Fault codes were not read after the work.");
  return points;
}

/** With these it may go when the lead says why. */
function maybeOpen(job: Job, now: string): Computed[] {
  const { plan, state } = job;
  const view = job.strip(now);
  const { route, gate, left, later } = view;
  const points: Computed[] = [];
  const add = (id: string, text: string, customer = true) => points.push({ id, text, level: "reason", customer });
  const own = plan.tests.filter((t) => t.fn.who !== "law");
  const failing = own.filter((t) => isFailure(state.results.get(t.id)?.value));
  if (failing.length > 0) add("failing", `Does not work: ${named(failing)}.`);
  const walk = jobWalk(plan, state);
  if (walk?.kind === "exchanged") add("walk", "Loudspeakers: contacts sit in each other's cavities; see Prove.");
  if (walk?.kind === "notExchanged") add("walk", `Loudspeakers: ${walk.reason}`);
  for (const t of touchTests(plan)) {
    const { kind } = touchOf(state, t);
    if (kind !== "open" && kind !== "right")
      add(`touch ${t.id}`, `${t.fn.name}: fingers do not arrive where they touch.`);
  }
  const seen = camerasOf(plan).flatMap((c) => cameraPoints(c, cameraStands(plan, state, c)));
  for (const text of [...seen, ...brokenSequences(plan, state), ...failedUses(plan, state)]) add(text, text);
  const untried = own.filter((t) => !state.results.has(t.id));
  if (untried.length > 0) add("untried", `Not tried: ${named(untried)}.`);
  const again = openTests(plan, state, view)
    .filter((o) => o.round === "closed")
    .map((o) => o.test);
  if (again.length > 0) add("again", `Not tried again after closing: ${named(again)}.`);
  const changed = changedSince(job).filter((t) => !again.includes(t));
  if (changed.length > 0) add("changed", `Not tried again since it was changed: ${named(changed)}.`);
  const impossible = own.filter((t) => state.results.get(t.id)?.value === "impossible");
  if (impossible.length > 0) add("impossible", `Could not be tried: ${named(impossible)}.`);
  const leads = openLeads(plan, state);
  if (leads.length > 0) add("leads", `Not plugged: ${leads.join("; ")}.`);
  const parked = connectTasks(job).filter((t) => t.kind === "park" && !isTaskDone(plan, state, t));
  if (parked.length > 0) add("parked", `Not noted as done: ${parked.map((t) => lowerFirst(t.say)).join("; ")}.`, false);
  const taken = plan.documents.car.fusePanel?.find((p) => p.id === state.feed);
  if (taken?.used && !state.tapLit) add("tap", `The tap at ${taken.id} was not tested for its way round.`, false);
  for (const text of bankPoints(plan, state)) add(text, text, false);
  const loose = [...left, ...later].filter((t) => route.afterTrying.has(t.id));
  if (loose.length > 0)
    add("loose", `Laid loosely, not led and fixed: ${loose.map((t) => lowerFirst(t.title)).join("; ")}.`);
  const unmade = plan.sets.filter((s) => !isSet(plan, state, s));
  if (unmade.length > 0) add("sets", `Not set: ${unmade.map((s) => s.say).join("; ")}.`, false);
  for (const { phone, step } of phonesOf(plan, state) ?? [])
    if (step) add(`phone ${phone}`, `Pairing of ${phone} not finished: ${lowerFirst(step.title)}.`);
  for (const part of smallParts(route.plan, state.strip))
    add(
      `small ${part.state} ${part.what}`,
      `${part.state === "broken" ? "Broken" : "Lost"}: ${part.count} × ${part.what}.`,
    );
  if (gate === "passedOver") add("gate", `Closed without the whole bench test: ${state.strip.gate?.reason}`, false);
  if (!isBlank(plan.documents.kit)) for (const text of newCodes(state)) add("codes-new", text);
  for (const text of paperPoints(job)) add(text, text, false);
  return points;
}

/** Connections of the kit that nobody has made, or that came out again. */
function openLeads(plan: JobPlan, state: JobState): string[] {
  const open = openNow(plan, state).openLinks ?? {};
  const mine = plan.connections.filter((c) => c.kind === "kit" && c.link in open && ![c.a, c.b].some(isCarried));
  return mine.map((c) => lowerFirst(c.say));
}

/** The switch bank where nobody has looked how it stands, or it stands otherwise than planned. */
function bankPoints({ documents, switches }: JobPlan, state: JobState): string[] {
  const bank = documents.kit.switchBank;
  if (!bank || !switches?.settings) return [];
  if (!state.switches) return ["How the switch bank stands was not noted."];
  const wrong = compareSwitches(switches, bank, state.switches).map(
    (s) => `switch ${s.number} stands ${s.is}, not ${s.should}`,
  );
  return wrong.length > 0 ? [`Switch bank: ${wrong.join("; ")}.`] : [];
}

/** What was not written down or looked up before the work. */
function paperPoints({ plan, state }: Job): string[] {
  const { car, kit } = plan.documents;
  const points: string[] = [];
  if (state.car.identification === "" && !state.unread.has("identification"))
    points.push("The identification number is not noted.");
  const untried = plan.baseline.filter((t) => !state.baseline.has(t.id)).length;
  if (untried > 0) points.push(`${countWords(untried, "try", "tries")} of the baseline not done.`);
  if (isBlank(kit)) return points;
  const unsigned = unsignedWords(signatureOf(plan, state));
  if (unsigned) points.push(unsigned);
  const { leads } = lengthsOf(car, kit, plan.fitted, plan.applies, state.placed);
  const short = leads.filter((l) => l.check?.verdict === "short").map((l) => l.name);
  if (short.length > 0) points.push(`Too short for their way: ${[...new Set(short)].join(", ")}.`);
  return points;
}

/** Fault codes that came with the work. */
function newCodes({ car, codesAfter }: JobState): string[] {
  if (!codesAfter) return [];
  const { came } = compareCodes(car.faultCodes, codesAfter.value);
  return came.length > 0 ? [`New fault codes: ${came.map(codeWords).join("; ")}.`] : [];
}
