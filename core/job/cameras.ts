/** The cameras of a job: what is known of each, how it is to look, what was measured and what follows. */
import { type LineError, lineErrors, roadWheelDeg, type Steered } from "../camera/guide-lines";
import { acrossDeg, lensAcross } from "../camera/lens";
import type { Camera, Pose } from "../camera/pose";
import { type RearView, rearView, type Verdict } from "../camera/rear-view";
import { responseTime } from "../camera/response-time";
import { type Measured, type SightOutcome, sight } from "../camera/sight";
import { type Expected, TAP_PX, TAPE_M } from "../camera/sighting";
import { type Turn, turns, turnWords } from "../camera/turn";
import type { JobState } from "../log/entry";
import type { Noted } from "../log/kind";
import type { Aim } from "../log/kinds/prove/aim";
import type { SightData } from "../log/kinds/prove/sight";
import type { TurnedData } from "../log/kinds/prove/turned";
import { FIGURES, type FigureName } from "../model/figures";
import type { JobPlan } from "./plan";

export interface JobCamera {
  id: string;
  name: string;
  looks: "back" | "ahead";
  /** The part on whose glass its picture is looked at. */
  glass: string | null;
}

/** The car itself, as bearer of figures. */
const CAR = "car";

export function camerasOf({ fitted, tests }: Pick<JobPlan, "fitted" | "tests">): JobCamera[] {
  return fitted.parts.flatMap(({ id, name, looks, sources = [] }) => {
    if (!looks) return [];
    const pictures = new Set(sources.map((s) => s.attributes?.picture));
    const seen = tests.flatMap((t) => t.fn.observe).find((o) => pictures.has(String(o.where.picture)));
    return { id, name, looks, glass: seen?.at.split(".")[0] ?? null };
  });
}

export interface KnownFigure {
  name: FigureName;
  /** The part that it belongs to, or the car. */
  of: string;
  value: number | null;
  from: "measured" | "document" | null;
}

/** A figure as it was measured on this car, else as the documents say. */
function figureOf(
  { documents, fitted }: Pick<JobPlan, "documents" | "fitted">,
  { figures }: Pick<JobState, "figures">,
  of: string,
  name: FigureName,
): KnownFigure {
  const measured = figures.get(`${of}.${name}`)?.value;
  if (measured !== undefined) return { name, of, value: measured, from: "measured" };
  const written = (of === CAR ? documents.car : fitted.parts.find((p) => p.id === of))?.figures?.[name];
  return { name, of, value: written ?? null, from: written === undefined ? null : "document" };
}

/** Where a camera usually sits and looks when nobody has said it; our judgement of common practice. */
const USUAL = {
  back: { cameraHeightMm: 900, cameraBackMm: 50, cameraPitchDeg: 38, lensDeg: 150, pictureShape: 4 / 3 },
  ahead: { cameraHeightMm: 600, cameraBackMm: 0, cameraPitchDeg: 30, lensDeg: 140, pictureShape: 4 / 3 },
} as const;
const OF_CAMERA = ["cameraHeightMm", "cameraBackMm", "cameraPitchDeg", "lensDeg", "pictureShape"] as const;

/** How a camera is to look: as it was placed, else as the documents say. */
export interface Wanted {
  camera: Camera;
  /** Figures that neither a document nor a person has given: they are only usual. */
  usual: FigureName[];
  /** Somebody has placed it. */
  placed: boolean;
}

export function wantedOf(plan: JobPlan, state: JobState, { id, looks }: JobCamera): Wanted {
  const known = OF_CAMERA.map((name) => figureOf(plan, state, id, name));
  const usual = known.filter((k) => k.value === null).map((k) => k.name);
  const value = (name: (typeof OF_CAMERA)[number]) => known.find((k) => k.name === name)?.value ?? USUAL[looks][name];
  const aim = state.aims.get(id)?.value;
  if (aim) return { camera: cameraFrom(aim, looks), usual: [], placed: true };
  const pose: Pose = {
    xM: 0,
    yM: -value("cameraBackMm") / 1000,
    zM: value("cameraHeightMm") / 1000,
    yawDeg: 0,
    pitchDeg: value("cameraPitchDeg"),
    rollDeg: 0,
  };
  const aimed = { pose, law: "fisheye" as const, acrossDeg: value("lensDeg"), k1: 0, shape: value("pictureShape") };
  return { camera: cameraFrom(aimed, looks), usual, placed: false };
}

function cameraFrom({ pose, law, acrossDeg: across, k1, shape }: Aim, looks: JobCamera["looks"]): Camera {
  return { pose, lens: lensAcross(law, across, k1), shape, mirrored: looks === "back" };
}

/** What the search for the real pose begins with. */
export function expectedOf({ camera: { pose, lens, shape } }: Pick<Wanted, "camera">): Expected {
  return { pose, acrossDeg: acrossDeg(lens), law: null, shape, tapPx: TAP_PX, tapeM: TAPE_M };
}

/** A sighting of a camera of the job, as it would come out now. */
export function sightNow(
  plan: JobPlan,
  state: JobState,
  camera: JobCamera,
  sighting: SightData["sighting"],
): SightOutcome {
  return sight(sighting, expectedOf(wantedOf(plan, state, camera)));
}

/** What stands about one camera: the last sighting since it was last turned, and what follows from it. */
export interface CameraStands {
  wanted: Wanted;
  measured: Measured | null;
  turns: Turn[];
  /** The picture is mirrored where it should not be, or not where it should. */
  wrongWay: boolean;
  lines: { errors: LineError[]; steeringWheelDeg: number } | null;
  /** Of the rule for rear views; null while nothing was measured, or for a camera that looks ahead. */
  rear: RearView | null;
  /** The rule is that of the car's country, or somebody has begun to hold the camera against it. */
  ruled: boolean;
  time: ReturnType<typeof responseTime> | null;
}

/** States are never changed, so what follows from one is kept as long as it is. */
const known = new WeakMap<JobState, Map<string, { plan: JobPlan; stands: CameraStands }>>();

export function cameraStands(plan: JobPlan, state: JobState, camera: JobCamera): CameraStands {
  const ofState = known.get(state) ?? new Map<string, { plan: JobPlan; stands: CameraStands }>();
  known.set(state, ofState);
  const before = ofState.get(camera.id);
  if (before?.plan === plan) return before.stands;
  const stands = standsOf(plan, state, camera);
  ofState.set(camera.id, { plan, stands });
  return stands;
}

function standsOf(plan: JobPlan, state: JobState, camera: JobCamera): CameraStands {
  const wanted = wantedOf(plan, state, camera);
  const seen = state.sights.get(camera.id)?.sight;
  const outcome = seen && sightNow(plan, state, camera, seen.value.sighting);
  const measured = outcome?.kind === "measured" ? outcome : null;
  const lines = state.lines.get(camera.id)?.value;
  const steered = lines && steeredOf(plan, state, camera, lines.steeringWheelDeg);
  const taken = state.reverseTimes.get(camera.id)?.value;
  return {
    wanted,
    measured,
    turns: measured ? turns(measured, wanted.camera.pose) : [],
    wrongWay: measured !== null && measured.camera.mirrored !== wanted.camera.mirrored,
    lines:
      measured && lines && steered
        ? {
            errors: lineErrors(measured.camera, lines.corners, lines.taps, steered),
            steeringWheelDeg: lines.steeringWheelDeg,
          }
        : null,
    rear:
      measured && camera.looks === "back"
        ? rearView(measured.camera, measured.sigma, aroundOf(plan, state, camera))
        : null,
    ruled: camera.looks === "back" && (taken !== undefined || plan.documents.car.countries?.includes("US") === true),
    time: taken ? responseTime(taken) : null,
  };
}

function aroundOf(plan: JobPlan, state: JobState, { glass }: JobCamera) {
  const metres = (of: string, name: FigureName) => {
    const { value } = figureOf(plan, state, of, name);
    return value === null ? null : value / 1000;
  };
  return {
    widthM: metres(CAR, "widthMm"),
    bumperHeightM: metres(CAR, "bumperHeightMm"),
    eyeToGlassM: metres(CAR, "eyeToScreenMm"),
    glassWidthM: glass === null ? null : metres(glass, "screenWidthMm"),
  };
}

/** Figures that guide lines need of the car. */
function steeringFigures(looks: JobCamera["looks"]): FigureName[] {
  return ["wheelbaseMm", looks === "back" ? "rearOverhangMm" : "frontOverhangMm", "widthMm", "steeringRatio"];
}

/** Every figure about a camera, with where it comes from. */
export function cameraFigures(plan: JobPlan, state: JobState, camera: JobCamera) {
  const list = (of: string, names: readonly FigureName[]) => names.map((n) => figureOf(plan, state, of, n));
  const { glass, looks } = camera;
  return {
    steering: list(CAR, steeringFigures(looks)),
    eye: [...(glass === null ? [] : list(glass, ["screenWidthMm"])), ...list(CAR, ["eyeToScreenMm", "bumperHeightMm"])],
  };
}

/**
 * The car at an angle of its steering wheel; null when a figure is missing.
 *
 * @param steeringWheelDeg positive: turned to the right
 */
export function steeredOf(plan: JobPlan, state: JobState, camera: JobCamera, steeringWheelDeg: number): Steered | null {
  const [wheelbase, overhang, width, ratio] = steeringFigures(camera.looks).map(
    (name) => figureOf(plan, state, CAR, name).value,
  );
  if (!wheelbase || !overhang || !width || !ratio) return null;
  return steeredFrom({ wheelbase, overhang, width, ratio, looks: camera.looks }, steeringWheelDeg);
}

/** @param of in millimetres, the ratio without unit */
export function steeredFrom(
  of: { wheelbase: number; overhang: number; width: number; ratio: number; looks: JobCamera["looks"] },
  steeringWheelDeg: number,
): Steered {
  const back = of.looks === "back";
  return {
    wheelbaseM: of.wheelbase / 1000,
    axleToBumperM: (back ? of.overhang : of.wheelbase + of.overhang) / 1000,
    widthM: of.width / 1000,
    // To the right of the driver is to the left of a camera that looks back.
    roadWheelDeg: (back ? -1 : 1) * roadWheelDeg(steeringWheelDeg, of.ratio),
  };
}

/** A figure that can be measured on the car of a job, in words; null when there is none such. */
export function figureName({ fitted }: Pick<JobPlan, "fitted">, of: string, name: FigureName): string | null {
  const { label } = FIGURES[name];
  if (of === CAR) return label;
  const part = fitted.parts.find((p) => p.id === of);
  return part ? `${part.name}: ${label.toLowerCase()}` : null;
}

const VERDICTS = {
  meets: "meets the rule",
  doesNot: "does not meet the rule",
  notShown: "cannot be shown with what was measured",
} as const satisfies Record<Verdict, string>;

/** What stands against handing over, in words. */
export function cameraPoints({ name, looks }: JobCamera, stands: CameraStands): string[] {
  const { wrongWay, wanted, rear, ruled, time } = stands;
  const turn = stands.turns.filter((t) => t.say === "turn").map((t) => turnWords(t, looks));
  return [
    ...(wrongWay ? [`${name}: the picture is ${wanted.camera.mirrored ? "not " : ""}mirrored.`] : []),
    ...(turn.length > 0 ? [`${name}: to be turned ${turn.join(", ")}.`] : []),
    ...(rear && ruled && (rear.field === "doesNot" || rear.size === "doesNot")
      ? [`${name}: what it shows ${VERDICTS.doesNot} of 49 CFR 571.111.`]
      : []),
    ...(time?.verdict === "doesNot" ? [`${name}: its picture comes ${time.seconds.toFixed(1)} s after reverse.`] : []),
  ];
}

/** What was measured of a camera, for the certificate; empty when nothing was. */
export function cameraLines(
  { name, looks }: JobCamera,
  { measured, lines, rear, ruled, time }: CameraStands,
  turned: readonly Noted<TurnedData>[],
): string[] {
  const told: string[] = [];
  if (measured) {
    const { camera, sigma, marks } = measured;
    told.push(
      `${name}: measured by ${marks.length} marks, ${measured.rmsPx.toFixed(1)} pixels off on average: ${(100 * camera.pose.zM).toFixed(0)} cm over the ground, ${degrees(camera.pose.pitchDeg, sigma.pitchDeg)} down, turned ${degrees(camera.pose.yawDeg, sigma.yawDeg)}, leaning ${degrees(camera.pose.rollDeg, sigma.rollDeg)}, picture ${camera.mirrored ? "mirrored" : "not mirrored"}.`,
    );
  }
  for (const { value } of turned)
    told.push(`${name} was turned ${value.turns.map((t) => turnWords(t, looks)).join(", ")}.`);
  if (lines) {
    const worst = Math.max(...lines.errors.flatMap((e) => (e.offCm === null ? [] : Math.abs(e.offCm))));
    if (Number.isFinite(worst))
      told.push(`${name}: guide lines at most ${worst.toFixed(0)} cm beside the car's way within 3 m.`);
  }
  if (time) told.push(`${name}: picture ${time.seconds.toFixed(2)} s after reverse (± ${time.offS.toFixed(2)} s).`);
  if (rear && ruled)
    told.push(
      `${name}, rear view by 49 CFR 571.111 (United States): field ${VERDICTS[rear.field]}; size ${VERDICTS[rear.size]}; time ${VERDICTS[time?.verdict ?? "notShown"]}. Local law and its inspectors decide.`,
    );
  return told;
}

function degrees(value: number, sigma: number): string {
  return `${value.toFixed(1)}° ± ${Math.max(0.1, 2 * sigma).toFixed(1)}°`;
}
