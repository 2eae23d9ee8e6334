/** A job done from the first look at the car to the closing, thing by thing as its own order says. */
import { plugChoices, plugState } from "../../core/configure/programming-plug";
import type { Asked } from "../../core/job/decide";
import { decide } from "../../core/job/decide";
import type { Job, OpenedWith } from "../../core/job/job";
import type { Act } from "../../core/job/order/act";
import { orderOf } from "../../core/job/order/order";
import { phonesOf } from "../../core/job/phones";
import type { Command } from "../../core/log/entry";
import { handsView } from "../../core/views/hands";
import { jobOf, TEST } from "./jobs";

const START = Date.parse("2026-01-05T08:00:00Z");
const at = (minute: number) => new Date(START + minute * 60_000).toISOString();
/** A number that the demonstration's car reads whole. */
const IDENTIFICATION = "0VMCRA180J1000312";

/** The car sheet: the radio has the firmware that the kit asks for. */
function sheetOf({ plan }: Job) {
  const firmware = plan.documents.kit.firmwareFloors.find(plan.applies)?.atLeast ?? "";
  return { identification: IDENTIFICATION, firmware };
}

export interface WholeJob {
  job: Job;
  /** When everything was done. */
  now: string;
  /** What was done, in its order. */
  acts: readonly Act[];
}

/**
 * Follows the order until it says to close, answers what a press asks for, and waits where it has to.
 *
 * @param choices options confirmed in Fit
 * @throws where the order stands still or a press is refused
 */
export function wholeJob(opened: OpenedWith, choices: Record<string, string> = {}): WholeJob {
  let job = jobOf(opened);
  let minute = 0;
  const acts: Act[] = [];
  for (;;) {
    const now = at(minute);
    const [act] = orderOf(job, now);
    if (!act) throw new Error("nothing to do, and not closed");
    if (act.stage === "handover") return { job, now, acts };
    if (acts.length > 400) throw new Error(`it stands still at: ${act.action}`);
    acts.push(act);
    for (const command of pressesFor(job, act, now, choices)) {
      const before = job.entries.length;
      for (let wait = 0; job.entries.length === before; wait++) {
        job = pressed(job, { id: `e${before}`, command, at: at(minute) });
        if (job.entries.length === before) minute += 5;
        if (wait > 6) throw new Error(`refused for half an hour: ${act.action}`);
      }
      minute += Math.max(1, Math.round(act.minutes));
    }
  }
}

/** The job with a press and what it asks for first; as it was where only the wait is not over. */
function pressed(job: Job, asked: Asked): Job {
  const plain = decide(job, [asked], TEST);
  if (plain.kind === "written") return plain.after;
  const stop = plain.kind === "refused" ? plain.stop : undefined;
  if (stop?.guard === "wait") return job;
  const right = stop?.answer === "asks" ? stop.first : stop?.answer === "refused" ? stop.right?.press : undefined;
  if (!right) throw new Error(JSON.stringify([asked.command, plain]));
  const first = right.map((command, i) => ({ ...asked, id: `${asked.id}.${i}`, command }));
  const whole = decide(job, [...first, asked], TEST);
  if (whole.kind !== "written") throw new Error(JSON.stringify([asked.command, whole]));
  return whole.after;
}

function pressesFor(job: Job, act: Act, now: string, choices: Record<string, string>): Command[] {
  if (act.does.kind !== "page") {
    const row = { id: "", number: 1, title: "", version: job.entries.length };
    const key = `${act.stage} ${act.page ?? ""} ${act.at ?? ""}`;
    const shown = handsView(job, row, { name: TEST.name, readOnly: false }, now, key).act;
    if (shown?.title === act.action && shown.press.length > 0) return shown.press;
    if (act.does.kind === "bank" || act.does.kind === "laidOut") return onTheBench(job, act);
    throw new Error(`step-by-step mode has no press for: ${act.action}`);
  }
  if (act.stage === "intake" && act.at === "car")
    return [
      { kind: "intake.car", data: { changed: sheetOf(job), before: { identification: "", firmware: "" } } } as Command,
    ];
  if (act.stage === "intake") {
    const data = { test: act.at ?? "", result: "pass", note: "" } as const;
    return [{ kind: "intake.baseline", data }];
  }
  if (act.stage === "fit" && act.at === "ledger") return [{ kind: "fit.confirm", data: { choices } }];
  if (act.stage === "fit" && act.at === "sign") {
    const offer = job.facts(now).offer();
    if (offer) return [{ kind: "fit.signed", data: { name: "A. Holm", kit: offer.kit, choices: offer.choices } }];
  }
  if (act.stage === "configure" && act.at === "phone") return [pairing(job)];
  const plug = job.plan.documents.kit.programmingPlug;
  if (act.stage === "configure" && plug && act.at === plug.setting) {
    const event = plugChoices(plugState(job.state.plugEvents, plug)).find((e) => e !== "refused" && e !== "dark");
    if (event) return [{ kind: "configure.plug", data: { event } }];
  }
  if (act.action === "Look what is loaded in the module")
    return [
      {
        kind: "configure.loaded",
        data: {
          setting: act.at ?? "",
          what: "loaded",
          identification: IDENTIFICATION,
          data: "",
          translation: false,
        },
      },
    ];
  throw new Error(`nothing here knows how to do: ${act.action}`);
}

/** The first phone, thing by thing as it is seen. */
function pairing({ plan, state }: Job): Command {
  const [begun] = phonesOf(plan, state) ?? [];
  const phone = "Test phone";
  if (!begun?.step) return { kind: "configure.pairing", data: { phone, act: "begin", family: null } };
  return { kind: "configure.pairing", data: { phone, act: "seen", step: begun.step.id } };
}

function onTheBench({ plan }: Job, { does }: Act): Command[] {
  if (does.kind === "laidOut") return [{ kind: "connect.laidOut", data: {} }];
  return [{ kind: "configure.switches", data: { settings: { ...plan.switches?.settings } } }];
}
