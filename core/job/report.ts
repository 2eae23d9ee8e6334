import { plugState } from "../configure/programming-plug";
import type { JobState } from "../log/entry";
import { isFailure } from "../log/kinds/prove/result";
import { lowerFirst } from "../model/labels";
import { codeWords, compareCodes } from "../prove/codes";
import { smallParts } from "../strip/fasteners";
import { isBlank } from "./blank";
import { cameraPoints, cameraStands, camerasOf } from "./cameras";
import { jobStripView } from "./car-state";
import { phonesOf } from "./phones";
import type { JobPlan } from "./plan";
import { openTests } from "./rounds";
import { brokenSequences } from "./sequences";
import { isSet } from "./set-state";
import { jobWalk } from "./speaker-walk";
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

export interface OpenPoint {
  text: string;
  /** Entry that noted it; null for what the job computes. */
  entry: string | null;
}

/**
 * Compares the baseline with the last tests and lists what is still open.
 *
 * @param now ISO 8601, UTC
 */
export function handoverReport(plan: JobPlan, state: JobState, now: string): HandoverReport {
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
  return { lines: [...added, ...baseline], openPoints: openPoints(plan, state, now) };
}

/** Once the job is closed these are the points with which it was closed, here and on the certificate. */
function openPoints(plan: JobPlan, state: JobState, now: string): OpenPoint[] {
  if (state.closed) return state.closed.openPoints.map((text) => ({ text, entry: null }));
  return [
    ...computedPoints(plan, state, now).map((text) => ({ text, entry: null })),
    ...state.points.map((p) => ({ text: p.text, entry: p.entry })),
  ];
}

function computedPoints(plan: JobPlan, state: JobState, now: string): string[] {
  const { car, screwsOut, route, gate, left, back } = jobStripView(plan, state, now);
  const points: string[] = [];
  const named = (tests: typeof plan.tests) => tests.map((t) => `${t.fn.name} (${t.label})`).join(", ");
  const failing = plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value));
  if (failing.length > 0) points.push(`Does not work: ${named(failing)}.`);
  const walk = jobWalk(plan, state);
  if (walk?.kind === "exchanged") points.push("Loudspeakers: contacts sit in each other's cavities; see Prove.");
  if (walk?.kind === "notExchanged") points.push(`Loudspeakers: ${walk.reason}`);
  for (const t of touchTests(plan)) {
    const { kind } = touchOf(state, t);
    if (kind !== "open" && kind !== "right") points.push(`${t.fn.name}: fingers do not arrive where they touch.`);
  }
  points.push(...camerasOf(plan).flatMap((c) => cameraPoints(c, cameraStands(plan, state, c))));
  points.push(...brokenSequences(plan, state), ...failedUses(plan, state));
  const untried = plan.tests.filter((t) => !state.results.has(t.id));
  if (untried.length > 0) points.push(`${untried.length} of ${plan.tests.length} tests were not done.`);
  const again = openTests(plan, state, { left, back })
    .filter((o) => o.round === "closed")
    .map((o) => o.test);
  if (again.length > 0) points.push(`Not tried again after closing: ${named(again)}.`);
  const impossible = plan.tests.filter((t) => state.results.get(t.id)?.value === "impossible");
  if (impossible.length > 0) points.push(`Could not be tried: ${named(impossible)}.`);
  const unmade = plan.sets.filter((s) => !isSet(plan, state, s));
  if (unmade.length > 0) points.push(`Not set: ${unmade.map((s) => s.say).join("; ")}.`);
  const { programmingPlug } = plan.documents.kit;
  if (programmingPlug && plugState(state.plugEvents, programmingPlug).inSocket)
    points.push("The programming plug is still in the diagnostic socket.");
  for (const { phone, step } of phonesOf(plan, state) ?? [])
    if (step) points.push(`Pairing of ${phone} not finished: ${lowerFirst(step.title)}.`);
  if (car.panelsOff.length > 0) points.push(`Still off: ${car.panelsOff.join(", ")}.`);
  if (screwsOut > 0) points.push(`${screwsOut} fasteners are still out.`);
  if (car.plugsOpen.length > 0) points.push(`${car.plugsOpen.length} factory plugs are still open.`);
  for (const part of smallParts(route.plan, state.strip))
    points.push(`${part.state === "broken" ? "Broken" : "Lost"}: ${part.count} × ${part.what}.`);
  if (gate === "passedOver") points.push(`Closed without the whole bench test: ${state.strip.gate?.reason}`);
  if (!isBlank(plan.documents.kit)) points.push(...codePoints(state));
  if (car.battery === "isolated") points.push("The battery is still isolated.");
  return points;
}

/** Fault codes that nobody has read again, and those that came with the work. */
function codePoints({ car, codesAfter }: JobState): string[] {
  if (!codesAfter) return ["Fault codes were not read after the work."];
  const { came } = compareCodes(car.faultCodes, codesAfter.value);
  return came.length > 0 ? [`New fault codes: ${came.map(codeWords).join("; ")}.`] : [];
}
