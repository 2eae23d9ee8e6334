/**
 * The demonstration: an island workshop that keeps the cars of a district-nurse service and a harbour taxi on the
 * road. Makers, models, people, numbers and bus data are invented.
 */
import { z } from "zod";
import { noKit, noVariant } from "../core/job/blank";
import { boardLine } from "../core/job/board-line";
import type { EntryBody } from "../core/job/entry";
import { entryId } from "../core/job/entry-id";
import { jobStripView } from "../core/job/next";
import { type JobPlan, planJob } from "../core/job/plan";
import { foldJob } from "../core/job/state";
import { createAccount, createShop } from "../db/accounts";
import type { Database } from "../db/database";
import { storeFile } from "../db/files";
import { newId } from "../db/ids";
import { appendEntry, createJob, entriesOf, setBoardLine, setStandIn } from "../db/jobs";
import { saveProfile } from "../db/profiles";
import { demoDocuments, shippedLibrary } from "../profiles/library";
import { STAND_IN_DBC } from "../sim/bus-map";
import { DEMO_CUES, recordLog } from "../sim/car";
import { DEMO_ACCOUNTS, DEMO_PASSWORD } from "./people";

const OTHER_SHOP_LEAD = { email: "lead@mainland.example", name: "Oda Brenn", role: "lead" as const };
const SHOP_NAME = "Skerry Island Workshop";
/** The fault in the middle job: the picture lead from the module to the screen is broken. */
const HIDDEN_FAULT = "open:videoOutLead";
/** Car of the job whose radio nobody has looked at yet. */
const UNKNOWN_CAR = "hollinby-dunlin-16";
const TECHNICIAN = "Tomas Ebdal";
const COUNTER = "Runa Sild";

/** Loads shop, people, library and three jobs, once. */
export async function loadDemo(db: Database): Promise<void> {
  const there = await db.rows(z.object({ id: z.string() }), "SELECT id FROM shop WHERE name = ?", [SHOP_NAME]);
  if (there.length > 0) return;
  const shopId = newId();
  await createShop(db, shopId, SHOP_NAME);
  for (const a of DEMO_ACCOUNTS) await createAccount(db, { ...a, shopId, password: DEMO_PASSWORD, demo: true });
  const otherShop = newId();
  await createShop(db, otherShop, "Mainland Fitting Bay");
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
  await waitingJob(db, shopId, profiles);
  await unknownJob(db, shopId, rowOf(heads, UNKNOWN_CAR));
}

interface Profiles {
  car: string;
  variant: string | null;
  kit: string | null;
}

function rowOf(heads: readonly { slug: string; id: string }[], slug: string): string {
  return heads.find((h) => h.slug === slug)?.id ?? "";
}

/** Writes entries at given minutes after a start, by one person after the other. */
class Diary {
  private minute = 0;

  constructor(
    private readonly db: Database,
    private readonly shopId: string,
    readonly jobId: string,
    private readonly start: Date,
  ) {}

  async add(body: EntryBody, minutes: number, by = TECHNICIAN): Promise<void> {
    this.minute += minutes;
    const at = new Date(this.start.getTime() + this.minute * 60_000);
    await appendEntry(this.db, this.shopId, this.jobId, { id: newId(), body, at, byName: by, accountId: null });
  }
}

async function openDiary(
  db: Database,
  shopId: string,
  profiles: Profiles,
  title: string,
  customer: string,
  start: Date,
): Promise<Diary> {
  const id = newId();
  await createJob(db, {
    id,
    shopId,
    title,
    customer,
    carProfile: profiles.car,
    variantProfile: profiles.variant,
    kitProfile: profiles.kit,
    stage: "intake",
    nextAction: "",
    createdAt: start,
  });
  await setStandIn(db, shopId, id, null);
  return new Diary(db, shopId, id, start);
}

async function finish(db: Database, shopId: string, jobId: string): Promise<void> {
  const state = foldJob(await entriesOf(db, shopId, jobId));
  await setBoardLine(db, shopId, jobId, boardLine(planJob(demoDocuments(), state), state, new Date().toISOString()));
}

function daysAgo(days: number, hour: number): Date {
  const date = new Date();
  date.setUTCDate(date.getUTCDate() - days);
  date.setUTCHours(hour, 5, 0, 0);
  return date;
}

async function waitingJob(db: Database, shopId: string, profiles: Profiles): Promise<void> {
  const diary = await openDiary(
    db,
    shopId,
    profiles,
    "Harbour taxi 3: phone on the screen",
    "Harbour taxi",
    daysAgo(0, 0),
  );
  await diary.add(
    {
      kind: "intake.car",
      data: {
        identification: "",
        plate: "SK 3041",
        odometerKm: 88210,
        firmware: "",
        faultCodes: "",
        note: "Driver waits until noon.",
      },
    },
    0,
    COUNTER,
  );
  await finish(db, shopId, diary.jobId);
}

/** A private owner asks what can be done; nobody has looked which radio the car has. */
async function unknownJob(db: Database, shopId: string, carProfile: string): Promise<void> {
  const profiles = { car: carProfile, variant: null, kit: null };
  const diary = await openDiary(
    db,
    shopId,
    profiles,
    "Lighthouse road 4: calls without hands",
    "A. Holm",
    daysAgo(0, 1),
  );
  await diary.add(
    {
      kind: "intake.car",
      data: {
        identification: "0HBDUR182G2000914",
        plate: "SK 2260",
        odometerKm: 131450,
        firmware: "",
        faultCodes: "",
        note: "Asks at the counter; the car stands outside.",
      },
    },
    0,
    COUNTER,
  );
  const car = shippedLibrary().find((p) => p.id === UNKNOWN_CAR);
  if (car?.document !== "car") return;
  const state = foldJob(await entriesOf(db, shopId, diary.jobId));
  const plan = planJob({ car, variant: noVariant(car), kit: noKit() }, state);
  await setBoardLine(db, shopId, diary.jobId, boardLine(plan, state, new Date().toISOString()));
}

async function middleJob(db: Database, shopId: string, profiles: Profiles): Promise<void> {
  const diary = await openDiary(
    db,
    shopId,
    profiles,
    "District nurse car 7: mirroring and front camera",
    "District-nurse service",
    daysAgo(1, 8),
  );
  await setStandIn(db, shopId, diary.jobId, HIDDEN_FAULT);
  const plan = planJob(demoDocuments(), { choices: null, wishes: null });
  await upToBench(diary, plan, "0VMCRA188J1000431", "SK 1127", 61880, 1.1);
  await storeStoredFiles(db, shopId, diary, 11);
  const results: [string, "pass" | "nothing"][] = [
    ["hazard/key-off", "pass"],
    ["factoryPicture/running", "nothing"],
  ];
  for (const [test, answer] of results)
    await diary.add(
      { kind: "prove.result", data: { test, answer, note: answer === "nothing" ? "Screen stays black." : "" } },
      2,
    );
  await finish(db, shopId, diary.jobId);
}

async function closedJob(db: Database, shopId: string, profiles: Profiles): Promise<void> {
  const diary = await openDiary(
    db,
    shopId,
    profiles,
    "District nurse car 2: mirroring and front camera",
    "District-nurse service",
    daysAgo(6, 7),
  );
  const plan = planJob(demoDocuments(), { choices: null, wishes: null });
  await upToBench(diary, plan, "0VMCRA183J1000207", "SK 1122", 74305, 1.3);
  await storeStoredFiles(db, shopId, diary, 7);
  for (const test of plan.tests)
    await diary.add({ kind: "prove.result", data: { test: test.id, answer: "pass", note: "" } }, test.minutes);
  await diary.add(
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
  await diary.add(
    { kind: "strip.small", data: { step: "vents", what: "clip of the vent panel", state: "broken", count: 1 } },
    1,
  );
  const closing = foldJob(await entriesOf(db, shopId, diary.jobId));
  for (const task of jobStripView(plan, closing, new Date().toISOString()).back)
    await diary.add(
      { kind: "strip.step", data: { step: task.id, direction: task.ritual ? "in" : "back", confirmed: [] } },
      task.minutes.usual,
    );
  await diary.add({ kind: "handover.point", data: { text: "Glovebox damper is worn; customer knows." } }, 1);
  await diary.add({ kind: "handover.close", data: { openPoints: ["Glovebox damper is worn; customer knows."] } }, 6);
  await finish(db, shopId, diary.jobId);
}

/** Intake to configured, battery connected for the bench test. */
async function upToBench(
  diary: Diary,
  plan: JobPlan,
  identification: string,
  plate: string,
  odometerKm: number,
  pace: number,
): Promise<void> {
  await diary.add(
    { kind: "intake.car", data: { identification, plate, odometerKm, firmware: "R2 4.18", faultCodes: "", note: "" } },
    0,
    COUNTER,
  );
  for (const test of plan.baseline)
    await diary.add({ kind: "intake.baseline", data: { test: test.id, result: "pass", note: "" } }, test.minutes);
  await diary.add(
    {
      kind: "intake.wishes",
      data: {
        functions: plan.fitted.functions
          .filter((f) => f.who === "customer" && !plan.stock.functions.some((s) => s.id === f.id))
          .map((f) => f.id),
      },
    },
    1,
  );
  await diary.add({ kind: "fit.confirm", data: { choices: { soundPath: "line" } } }, 3);
  const { left } = jobStripView(plan, foldJob([]), new Date().toISOString());
  for (const [i, task] of left.entries()) {
    // Real work is quicker here and slower there than the plan.
    const minutes = task.minutes.usual * (pace + 0.25 * ((i % 3) - 1)) + (task.id === "battery-off" ? 3 : 0);
    await diary.add({ kind: "strip.step", data: { step: task.id, direction: "in", confirmed: [] } }, minutes);
    if (task.id === "radio-screws")
      await diary.add({ kind: "strip.count", data: { step: task.id, group: 0, direction: "out", count: 4 } }, 0.2);
  }
  for (const c of plan.connections) await diary.add({ kind: "connect.plug", data: { link: c.link, plugged: true } }, 2);
  await diary.add({ kind: "configure.switches", data: { settings: { ...plan.settings } } }, 2);
  await diary.add({ kind: "configure.powerCycle", data: {} }, 1);
  await diary.add({ kind: "strip.step", data: { step: "battery-on", direction: "in", confirmed: [] } }, 3);
}

async function storeStoredFiles(db: Database, shopId: string, diary: Diary, seed: number): Promise<void> {
  const log = recordLog({ seed, durationS: 120, startS: Math.floor(Date.now() / 1000) - 86_400, cues: DEMO_CUES });
  for (const [name, what, text] of [
    ["on-cue.log", "log", log],
    ["corrie.dbc", "dbc", STAND_IN_DBC],
  ] as const) {
    const id = entryId(newId(), name);
    await storeFile(db, shopId, diary.jobId, { id, name }, once(new TextEncoder().encode(text)), 16_000_000);
    await diary.add({ kind: "bus.file", data: { file: id, name, what } }, 1);
  }
}

async function* once(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}
