/**
 * The demonstration: an island workshop that keeps the cars of a district-nurse service and a harbour taxi on the
 * road. Makers, models, people, numbers and bus data are invented.
 */

import { z } from "zod";
import { offerOf } from "../core/fit/offer";
import { isBlank } from "../core/job/blank";
import { jobStripView } from "../core/job/car-state";
import { decide } from "../core/job/decide";
import { Job, type OpenedWith } from "../core/job/job";
import type { JobPlan } from "../core/job/plan";
import { type OpenPoint, openPoints } from "../core/job/report";
import { repeatedTests } from "../core/job/rounds";
import type { Command, JobState } from "../core/log/entry";
import type { CarSheet } from "../core/log/kinds/intake/car";
import { roundOf } from "../core/prove/rounds";
import type { Test } from "../core/prove/tests";
import { createAccount, createShop } from "../db/accounts";
import { insertEntries } from "../db/append";
import type { Database } from "../db/database";
import { storeFile } from "../db/files";
import { newId } from "../db/ids";
import { insertJob, setStandIn } from "../db/jobs";
import { saveProfile } from "../db/profiles";
import { demoDocuments, shippedLibrary } from "../profiles/library";
import { STAND_IN_DBC } from "../sim/bus-map";
import { DEMO_CUES, recordLog } from "../sim/car";
import { DEMO_ACCOUNTS, DEMO_PASSWORD } from "./people";

const OTHER_SHOP_LEAD = { email: "lead@mainland.example", name: "Oda Brenn", role: "lead" as const };
const SHOP_NAME = "Skerry Island Workshop";
/** The fault in the middle job: the picture lead from the module to the screen is broken. */
const HIDDEN_FAULT = "open:videoOutLead";
/** The two faults of the job on which two things are the matter. */
const TWO_HIDDEN = ["open:audioLead", "loose:k-camera"];
/** Car of the job whose radio nobody has looked at yet. */
const UNKNOWN_CAR = "hollinby-dunlin-16";
/** Documents of the job with a board inside the radio. */
const BOARD_JOB = { car: "sundrey-heron-20", variant: "sundrey-heron-20-h1", kit: "pellimar-inlay-7" };
/** Documents of the job whose radio comes from a sister car and has to be coded. */
const CODED_JOB = { car: "kestrane-fjell-11", variant: "kestrane-fjell-11-f1", kit: "kestrane-sister-s4" };
/** Documents of the job whose module comes blank and is told the car by a translation. */
const BLANK_JOB = { car: "velmora-osk-18", variant: "velmora-osk-18-o2", kit: "orvanto-om9-blank-b" };
/** Longer than any car of the library wants between battery and airbag. */
const BATTERY_WAIT_MIN = 15;
const TECHNICIAN = "Tomas Ebdal";
const COUNTER = "Runa Sild";
const LEAD = "Ineke Varr";

/** Loads shop, people, library and seven jobs, once. */
export async function loadDemo(db: Database): Promise<void> {
  const existing = await db.rows(z.object({ id: z.string() }), "SELECT id FROM shop WHERE name = ?", [SHOP_NAME]);
  if (existing.length > 0) return;
  const shopId = newId();
  await createShop(db, shopId, SHOP_NAME);
  for (const a of DEMO_ACCOUNTS) await createAccount(db, { ...a, shopId, password: DEMO_PASSWORD, demo: true });
  const otherShop = newId();
  await createShop(db, otherShop, "Mainland Car Audio Shed");
  await createAccount(db, { ...OTHER_SHOP_LEAD, shopId: otherShop, password: DEMO_PASSWORD, demo: true });
  const heads = [];
  for (const profile of shippedLibrary()) {
    heads.push(await saveProfile(db, shopId, profile, "Shipped library"));
    await saveProfile(db, otherShop, profile, "Shipped library");
  }
  const { car, variant, kit } = demoDocuments();
  const profiles = { car: rowOf(heads, car.id), variant: rowOf(heads, variant.id), kit: rowOf(heads, kit.id) };
  await closedJob(db, shopId, profiles);
  await middleJob(db, shopId, profiles);
  await doubleJob(db, shopId, profiles);
  await waitingJob(db, shopId, profiles);
  await unknownJob(db, shopId, rowOf(heads, UNKNOWN_CAR));
  await boardJob(db, shopId, heads);
  await codedJob(db, shopId, heads);
  await blankJob(db, shopId, heads);
}

interface Profiles {
  car: string;
  variant: string | null;
  kit: string | null;
}

function rowOf(heads: readonly { slug: string; id: string }[], slug: string): string {
  return heads.find((h) => h.slug === slug)?.id ?? "";
}

/** Writes entries at given minutes after a start, by one person after the other, through the checks of the job. */
class Diary {
  private minute = 0;
  private job: Job;
  private readonly shelf = new Map<string, { name: string; what: "log" | "dbc" | "photo" }>();
  readonly jobId = newId();

  constructor(
    private readonly title: string,
    private readonly customer: string,
    private readonly start: Date,
    documents: OpenedWith,
  ) {
    const wishes = new Map(
      shippedLibrary().flatMap((p) => (p.document === "kit" ? p.functions.map((f) => [f.id, f.name] as const) : [])),
    );
    this.job = new Job(documents, [], {
      document: () => null,
      file: (id) => this.shelf.get(id) ?? null,
      proof: () => null,
      wish: (id) => wishes.get(id) ?? null,
      currency: "EUR",
    });
  }

  get plan(): JobPlan {
    return this.job.plan;
  }

  get state(): JobState {
    return this.job.state;
  }

  get openPoints(): OpenPoint[] {
    return openPoints(this.job, this.now);
  }

  /** The offer as the job computes it. */
  get offer() {
    return this.job.facts(this.now).offer();
  }

  /** The moment of the last entry. */
  get now(): string {
    return new Date(this.start.getTime() + this.minute * 60_000).toISOString();
  }

  add(command: Command, minutes: number, by = TECHNICIAN): void {
    this.minute += minutes;
    const who = { name: by, role: by === LEAD ? ("lead" as const) : ("technician" as const) };
    const asked = (c: Command) => ({ id: newId(), command: c, at: this.now });
    let decision = decide(this.job, [asked(command)], who);
    // Nobody at the airbags before the waiting time is over.
    for (let min = 0; min < LONGEST_WAIT_MIN && decision.kind === "refused" && decision.stop?.guard === "wait"; min++) {
      this.minute++;
      decision = decide(this.job, [asked(command)], who);
    }
    // What one tap would say of the car is said.
    if (decision.kind === "refused" && decision.stop?.answer === "asks")
      decision = decide(this.job, [...decision.stop.first, command].map(asked), who);
    if (decision.kind === "refused")
      throw new Error(`demonstration, ${command.kind}: ${decision.refusal.problem} ${decision.refusal.remedy}`);
    this.job = decision.after;
  }

  /** Notes a file that is stored once the job is. */
  addFile(id: string, name: string, what: "log" | "dbc"): void {
    this.shelf.set(id, { name, what });
    this.add({ kind: "bus.file", data: { file: id } }, 1);
  }

  /** Stores the job with its log. */
  async store(db: Database, shopId: string, profiles: Profiles, fault: string | null = null): Promise<void> {
    const { entries, state } = this.job;
    const { plan } = this;
    const { verdict } = offerOf(plan.documents, state, plan.chosen, []);
    if (!isBlank(plan.documents.kit) && verdict.level === "impossible")
      throw new Error(`demonstration, ${this.title}: its kit does not fit. ${verdict.text}`);
    await db.transaction(async (sql) => {
      await insertJob(sql, {
        id: this.jobId,
        shopId,
        title: this.title,
        customer: this.customer,
        carProfile: profiles.car,
        variantProfile: profiles.variant,
        kitProfile: profiles.kit,
        createdAt: this.start,
        version: entries.length,
        closedAt: state.closed && new Date(state.closed.at),
        line: this.job.boardLine(new Date().toISOString()),
      });
      await insertEntries(sql, shopId, this.jobId, 0, entries, null);
      await setStandIn(sql, shopId, this.jobId, fault);
    });
  }
}

const LONGEST_WAIT_MIN = 60;

function daysAgo(days: number, hour: number): Date {
  const date = new Date();
  date.setUTCDate(date.getUTCDate() - days);
  date.setUTCHours(hour, 5, 0, 0);
  return date;
}

async function waitingJob(db: Database, shopId: string, profiles: Profiles): Promise<void> {
  const diary = new Diary("Harbour taxi 3: phone on the screen", "Harbour taxi", daysAgo(0, 0), demoDocuments());
  diary.add(sheet({ plate: "SK 3041", odometer: "88210 km", note: "Driver waits until noon." }), 0, COUNTER);
  await diary.store(db, shopId, profiles);
}

/** A private owner asks what can be done; nobody has looked which radio the car has. */
async function unknownJob(db: Database, shopId: string, carProfile: string): Promise<void> {
  const car = shippedLibrary().find((p) => p.id === UNKNOWN_CAR);
  if (car?.document !== "car") return;
  const diary = new Diary("Lighthouse road 4: calls without hands", "A. Holm", daysAgo(0, 1), {
    car,
    variant: null,
    kit: null,
  });
  const note = "Asks at the counter; the car stands outside.";
  diary.add(sheet({ identification: "0HBDUR182G2000914", plate: "SK 2260", odometer: "131450 km", note }), 0, COUNTER);
  await diary.store(db, shopId, { car: carProfile, variant: null, kit: null });
}

/** A board goes inside the radio: the unit is opened, two ribbons come off, a camera is added. */
async function boardJob(db: Database, shopId: string, heads: readonly { slug: string; id: string }[]): Promise<void> {
  const documents = documentsNamed(BOARD_JOB);
  const diary = new Diary("Ferry office van: phone and rear camera", "Ferry office", daysAgo(0, 2), documents);
  const note = "Loads are seen badly when reversing onto the ramp.";
  diary.add(sheet({ identification: "0SUHER20XK1003308", plate: "SK 5514", odometer: "43920 km", note }), 0, COUNTER);
  diary.add({ kind: "intake.wishes", data: { functions: ["phonePicture", "addedRearView"] } }, 4, COUNTER);
  diary.add({ kind: "fit.confirm", data: { choices: { soundPath: "carBluetooth", rearCameraAdded: "fitted" } } }, 12);
  await diary.store(db, shopId, rowsOf(heads, BOARD_JOB));
}

/** Everything is plugged and the battery is on; the control units still know nothing of the new radio. */
async function codedJob(db: Database, shopId: string, heads: readonly { slug: string; id: string }[]): Promise<void> {
  const diary = new Diary(
    "Mail van 2: radio from a sister car",
    "Island mail",
    daysAgo(1, 9),
    documentsNamed(CODED_JOB),
  );
  const note = "Old radio loses its stations; the new one comes from a sister car.";
  diary.add(sheet({ identification: "0KEFJL112B3000572", plate: "SK 4410", odometer: "152300 km", note }), 0, COUNTER);
  for (const test of diary.plan.baseline)
    diary.add({ kind: "intake.baseline", data: { test: test.id, result: "pass", note: "" } }, test.minutes);
  diary.add({ kind: "fit.confirm", data: { choices: {} } }, 5);
  diary.add(signature(diary, "Harbour master"), 4, COUNTER);
  for (const task of jobStripView(diary.plan, diary.state, diary.now).left)
    diary.add({ kind: "strip.step", data: { step: task.id, direction: "in" } }, task.minutes.likely);
  for (const c of diary.plan.connections) diary.add({ kind: "connect.plug", data: { link: c.link, plugged: true } }, 2);
  diary.add({ kind: "strip.step", data: { step: "battery-on", direction: "in" } }, 3);
  await diary.store(db, shopId, rowsOf(heads, CODED_JOB));
}

/** The dash is open and the module on the bench: it comes blank, and nobody has loaded it yet. */
async function blankJob(db: Database, shopId: string, heads: readonly { slug: string; id: string }[]): Promise<void> {
  const diary = new Diary(
    "Pilot station 8: a module that comes blank",
    "Pilot station",
    daysAgo(1, 11),
    documentsNamed(BLANK_JOB),
  );
  const note = "The maker of the module has no data for this car; its messages are found on the car itself.";
  diary.add(sheet({ identification: "0VMSK18PBH2004417", plate: "SK 7702", odometer: "61240 km", note }), 0, COUNTER);
  for (const test of diary.plan.baseline)
    diary.add({ kind: "intake.baseline", data: { test: test.id, result: "pass", note: "" } }, test.minutes);
  diary.add({ kind: "intake.wishes", data: { functions: ["phonePicture", "phoneTouch"] } }, 1, COUNTER);
  diary.add({ kind: "fit.confirm", data: { choices: {} } }, 5);
  for (const task of jobStripView(diary.plan, diary.state, diary.now).left)
    diary.add({ kind: "strip.step", data: { step: task.id, direction: "in" } }, task.minutes.likely);
  await diary.store(db, shopId, rowsOf(heads, BLANK_JOB));
}

interface DocumentNames {
  car: string;
  variant: string;
  kit: string;
}

function documentsNamed({ car: carId, variant: variantId, kit: kitId }: DocumentNames): OpenedWith {
  const library = shippedLibrary();
  const car = library.find((p) => p.id === carId);
  const variant = library.find((p) => p.id === variantId);
  const kit = library.find((p) => p.id === kitId);
  if (car?.document !== "car" || variant?.document !== "variant" || kit?.document !== "kit")
    throw new Error(`demonstration: the library lacks ${carId}, ${variantId} or ${kitId}`);
  return { car, variant, kit };
}

function rowsOf(heads: readonly { slug: string; id: string }[], { car, variant, kit }: DocumentNames): Profiles {
  return { car: rowOf(heads, car), variant: rowOf(heads, variant), kit: rowOf(heads, kit) };
}

async function middleJob(db: Database, shopId: string, profiles: Profiles): Promise<void> {
  const diary = new Diary(
    "District nurse car 7: mirroring and front camera",
    "District-nurse service",
    daysAgo(1, 8),
    demoDocuments(),
  );
  upToBench(diary, "0VMCRA188J1000431", "SK 1127", "61880 km", 1.1);
  const files = noteFiles(diary);
  const results: [string, "pass" | "nothing"][] = [
    ["hazard/key-off", "pass"],
    ["factoryPicture/running", "nothing"],
  ];
  for (const [test, answer] of results)
    diary.add(
      { kind: "prove.result", data: { test, answer, note: answer === "nothing" ? "Screen stays black." : "" } },
      2,
    );
  await diary.store(db, shopId, profiles, HIDDEN_FAULT);
  await storeFiles(db, shopId, diary.jobId, files, 11);
}

/** Everything is plugged and set; two things are the matter at once. */
async function doubleJob(db: Database, shopId: string, profiles: Profiles): Promise<void> {
  const diary = new Diary(
    "District nurse car 4: sound and front camera",
    "District-nurse service",
    daysAgo(2, 7),
    demoDocuments(),
  );
  upToBench(diary, "0VMCRA180J1000312", "SK 1124", "55210 km", 1.2);
  await diary.store(db, shopId, profiles, TWO_HIDDEN.join("\n"));
}

async function closedJob(db: Database, shopId: string, profiles: Profiles): Promise<void> {
  const diary = new Diary(
    "District nurse car 2: mirroring and front camera",
    "District-nurse service",
    daysAgo(6, 7),
    demoDocuments(),
  );
  upToBench(diary, "0VMCRA183J1000207", "SK 1122", "74305 km", 1.3);
  const files = noteFiles(diary);
  const passes = (tests: readonly Test[]) => {
    for (const test of tests)
      diary.add({ kind: "prove.result", data: { test: test.id, answer: "pass", note: "" } }, test.minutes);
  };
  passes(diary.plan.tests.filter((t) => roundOf(t) === "bench"));
  diary.add(
    {
      kind: "strip.note",
      data: {
        step: "glovebox",
        note: "Fourth screw behind the damper, not in the plan.",
        differs: { fasteners: [{ group: 0, count: 4 }] },
      },
    },
    1,
  );
  diary.add(
    { kind: "strip.small", data: { step: "vents", what: "clip of the vent panel", state: "broken", count: 1 } },
    1,
  );
  let waitMin = 0;
  for (const task of jobStripView(diary.plan, diary.state, diary.now).back) {
    const direction = task.prepStep ? "in" : "back";
    diary.add({ kind: "strip.step", data: { step: task.id, direction } }, task.minutes.likely + waitMin);
    // Airbags wait for the charge to be gone.
    waitMin = task.prepStep?.sets.battery === "isolated" ? BATTERY_WAIT_MIN : 0;
  }
  passes([...repeatedTests(diary.plan), ...diary.plan.tests.filter((t) => roundOf(t) === "yard")]);
  diary.add({ kind: "prove.codes", data: { text: "" } }, 2);
  for (const task of jobStripView(diary.plan, diary.state, diary.now).back)
    diary.add({ kind: "strip.step", data: { step: task.id, direction: "in" } }, task.minutes.likely);
  diary.add({ kind: "handover.point", data: { text: "Glovebox damper is worn; customer knows." } }, 1);
  const reasons: [RegExp, string][] = [
    [/^Broken: /, "The clip is ordered; the panel holds with the others."],
    [/^Too short/, "An extension from the shelf is in it."],
  ];
  for (const point of diary.openPoints) {
    const [, reason = ""] = reasons.find(([about]) => about.test(point.text)) ?? [];
    if (point.level === "reason") diary.add({ kind: "handover.accept", data: { point: point.id, reason } }, 0.5, LEAD);
  }
  diary.add({ kind: "handover.close", data: {} }, 6);
  await diary.store(db, shopId, profiles);
  await storeFiles(db, shopId, diary.jobId, files, 7);
}

function sheet(changed: Partial<CarSheet>): Command {
  return { kind: "intake.car", data: { changed, before: {} } };
}

/** The customer signs the offer as it stands. */
function signature({ offer }: Diary, name: string): Command {
  if (!offer) throw new Error("demonstration: nothing is offered yet");
  return { kind: "fit.signed", data: { name, kit: offer.kit, choices: offer.choices } };
}

/** Intake to configured, battery connected for the bench test. */
function upToBench(diary: Diary, identification: string, plate: string, odometer: string, pace: number): void {
  const { plan } = diary;
  diary.add(sheet({ identification, plate, odometer, firmware: "R2 4.18" }), 0, COUNTER);
  for (const test of plan.baseline)
    diary.add({ kind: "intake.baseline", data: { test: test.id, result: "pass", note: "" } }, test.minutes);
  const functions = plan.fitted.functions
    .filter((f) => f.who === "customer" && !plan.stock.functions.some((s) => s.id === f.id))
    .map((f) => f.id);
  diary.add({ kind: "intake.wishes", data: { functions } }, 1);
  diary.add({ kind: "fit.confirm", data: { choices: { soundPath: "line" } } }, 3);
  diary.add(signature(diary, "Nurse in charge"), 4, COUNTER);
  const { left } = jobStripView(plan, diary.state, diary.now);
  for (const [i, task] of left.entries()) {
    // Real work is quicker here and slower there than the plan.
    const minutes = task.minutes.likely * (pace + 0.25 * ((i % 3) - 1)) + (task.id === "battery-off" ? 3 : 0);
    diary.add({ kind: "strip.step", data: { step: task.id, direction: "in" } }, minutes);
    if (task.id === "radio-screws")
      diary.add({ kind: "strip.count", data: { step: task.id, group: 0, direction: "out", count: 4 } }, 0.2);
  }
  for (const c of plan.connections) diary.add({ kind: "connect.plug", data: { link: c.link, plugged: true } }, 2);
  diary.add({ kind: "configure.switches", data: { settings: { ...diary.plan.settings } } }, 2);
  diary.add({ kind: "strip.step", data: { step: "battery-on", direction: "in" } }, 3);
  diary.add({ kind: "configure.powerCycle", data: {} }, 1);
}

interface DemoFile {
  id: string;
  name: string;
  what: "log" | "dbc";
}

function noteFiles(diary: Diary): DemoFile[] {
  const files: DemoFile[] = [
    { id: newId(), name: "on-cue.log", what: "log" },
    { id: newId(), name: "corrie.dbc", what: "dbc" },
  ];
  for (const f of files) diary.addFile(f.id, f.name, f.what);
  return files;
}

async function storeFiles(
  db: Database,
  shopId: string,
  jobId: string,
  files: readonly DemoFile[],
  seed: number,
): Promise<void> {
  const log = recordLog({ seed, durationS: 120, startS: Math.floor(Date.now() / 1000) - 86_400, cues: DEMO_CUES });
  for (const f of files)
    await storeFile(
      db,
      { ...f, shopId, jobId, accountId: null },
      once(new TextEncoder().encode(f.what === "log" ? log : STAND_IN_DBC)),
      16_000_000,
    );
}

async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}
