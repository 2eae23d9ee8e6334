/** What comes before the first panel: intake, choice, what is done on the bench. */
import type { JobState } from "../../log/entry";
import { lowerFirst } from "../../model/labels";
import type { StripView } from "../../strip/view";
import { decodeIdentification } from "../../vehicle/identification";
import { isBlank } from "../blank";
import { firmwareBelow } from "../firmware-floor";
import type { Job } from "../job";
import type { JobPlan } from "../plan";
import { isSet } from "../set-state";
import { signatureOf } from "../signature";
import { type Act, onPage } from "./act";
import { bank } from "./settings";

/** True once something was taken off: what was not looked at before is not asked for in the middle of the work. */
function hasBegun({ state }: Job, view: StripView): boolean {
  return state.plugged.size > 0 || view.done.some((d) => !d.prepStep);
}

export function* intake(job: Job, view: StripView, now: string): Generator<Act> {
  const { plan, state } = job;
  const begun = hasBegun(job, view);
  if (!begun && state.baseline.size === 0) yield* identity(job, now);
  if (isBlank(plan.documents.variant))
    yield onPage({
      stage: "intake",
      at: "variant",
      action: "Find out which radio it is",
      why: "Baseline, kits and leads all depend on the radio variant.",
    });
  if (begun) return;
  const open = plan.baseline.filter((t) => !state.baseline.has(t.id));
  for (const t of open)
    yield onPage(
      {
        stage: "intake",
        at: t.id,
        action: `Baseline: try ${lowerFirst(t.fn.name)}, ${t.label}`,
        why: `${open.length} of ${plan.baseline.length} tries left. What is not written down before becomes the shop's fault after.`,
      },
      t.minutes,
    );
}

/** The identification number, as long as nobody has said that it cannot be read. */
export function* identity({ plan, state }: Job, now: string): Generator<Act> {
  const lastYear = Number(now.slice(0, 4)) + 1;
  const decoded = decodeIdentification(state.car.identification, plan.documents.car.identification, lastYear);
  if (decoded.complete || decoded.frame || state.unread.has("identification")) return;
  yield onPage({
    stage: "intake",
    at: "car",
    action: "Enter the identification number",
    why: "It decides the year and the gearbox, and with them the kit.",
  });
}

export function* choose({ plan, state }: Job, view: StripView): Generator<Act> {
  if (isBlank(plan.documents.kit))
    yield onPage({
      stage: "fit",
      at: "kits",
      action: "Choose the kit",
      why: "The kits of the library are ranked by what the customer wants.",
    });
  if (!state.choices)
    yield onPage({
      stage: "fit",
      at: "ledger",
      action: "Read what changes, then confirm kit and choices",
      why: "Leads, tests and the customer's card follow from it.",
    });
  // Once the work has begun it waits until the car is handed over.
  if (signatureOf(plan, state) !== "counts" && view.done.length === 0)
    yield onPage({
      stage: "fit",
      at: "sign",
      action: "Have the offer signed",
      why: "What is opened, given up and paid is agreed before the first panel comes off.",
    });
}

/** The kit asks for a firmware and nobody has read which one the radio has, or said that it cannot be read. */
function* firmwareToRead({ plan, state }: Job): Generator<Act> {
  const { kit } = plan.documents;
  const below = isBlank(kit) ? undefined : firmwareBelow(plan);
  if (below === undefined || plan.firmware.present !== "" || state.unread.has("firmware")) return;
  yield onPage(
    {
      stage: "intake",
      at: "car",
      action: "Read the firmware of the radio",
      why: `${kit.title} needs ${below} or newer; too old a radio is found before it is out.`,
    },
    2,
  );
}

/** What is found on the bench holds up nobody with the dash open. */
export function* onTheBench(job: Job, view: StripView): Generator<Act> {
  const { plan, state } = job;
  yield* loading(plan, state);
  if (hasBegun(job, view) || isBlank(plan.documents.kit)) return;
  yield* firmwareToRead(job);
  yield* bank(job, "bench");
  if (!state.laidOut && plan.connections.some((c) => c.kind === "kit"))
    yield {
      stage: "connect",
      page: "lengths",
      at: "laid-out",
      action: "Lay the kit out on the bench",
      why: "What is missing, too short or without a label is found before the dash is open.",
      does: { kind: "laidOut" },
      minutes: 5,
    };
}

/** What is in a module is looked at before it is fitted; later it is one of the settings. */
function* loading(plan: JobPlan, state: JobState): Generator<Act> {
  const set = plan.sets.find((s) => s.means === "programming" && !isSet(plan, state, s));
  if (!set || state.plugged.size > 0) return;
  const load = state.loads.get(set.setting);
  const act = (action: string, why: string) =>
    onPage({ stage: "configure", at: set.setting, action, why }, set.minutes);
  if (!load)
    yield act(
      "Look what is loaded in the module",
      "A blank one, or one for another car, is found before it is fitted and not after.",
    );
  else if (load.translation)
    yield act("Load the translation into the module again", "It was changed since the module was loaded with it.");
  else if (load.what === "blank") yield act("Load the module on the computer", `It is blank. ${set.say}.`);
  else yield act("Load the module anew, or get the right one", "It is loaded for another car.");
}
