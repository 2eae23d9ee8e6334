/** What Configure shows of a job. */

import { OUTPUTS } from "../bus/translation/translation";
import { plugChoices, plugState } from "../configure/programming-plug";
import { settingOf, settingValues } from "../configure/setting-values";
import { compareSwitches } from "../configure/switches";
import { mediumWords, sideEffectsOf } from "../fit/firmware";
import { standingProof } from "../job/bus-proof";
import { noPower } from "../job/car-state";
import { stopOf } from "../job/decide";
import type { Stop } from "../job/guards/guard";
import type { Job } from "../job/job";
import { inOrder } from "../job/order/order";
import { pairingOpen, wirelessNow } from "../job/pairing";
import { phonesOf } from "../job/phones";
import { isSet } from "../job/set-state";
import { switchSuspects } from "../job/switch-suspects";
import { toldOutputs } from "../job/translated-modules";
import { effective } from "../log/fold";
import { UPDATE_VOLTS } from "../log/kinds/configure/firmware";
import { Model } from "../model/outcome";
import type { KitSetting } from "../model/profile";
import { codingView } from "./coding";

/** @param now ISO 8601, UTC */
export function configureView(job: Job, now: string) {
  const { state, plan } = job;
  const bank = plan.documents.kit.switchBank;
  return {
    identification: state.car.identification,
    /** What speaks against writing to the car now, whatever the voltage will be; null when nothing does. */
    writing: writingStop(job, now),
    coding: codingView(job),
    firmware: firmwareView(job),
    plug: plugView(job),
    phone: phoneView(job, now),
    sets: inOrder(
      job,
      now,
      job.once("sets", () => setsOf(job)),
      (s) => ({ at: s.setting, done: s.done }),
    ),
    bank:
      bank && plan.switches
        ? {
            bank,
            solution: plan.switches,
            givenUp: state.givenUp.map((id) => plan.fitted.functions.find((f) => f.id === id)?.name ?? id),
            entered: state.switches,
            differences: state.switches ? compareSwitches(plan.switches, bank, state.switches) : [],
            suspects: job.once("switchSuspects", () => switchSuspects(plan, state)),
            powerCycled: state.powerCycled,
            powerOut: state.powerOut,
            history: job.once("bank history", () => bankHistory(job)),
            /** Why the module has no power that could be taken; null when it has. */
            noPower: noPower(job, now),
          }
        : null,
  };
}

function writingStop(job: Job, at: string): Stop | null {
  const command = { kind: "configure.session" as const, data: { log: "", act: "write" as const, volts: UPDATE_VOLTS } };
  return stopOf(job, { id: "", command, at }, { name: "", role: "technician" });
}

/** The bank as it was entered, the last one first. */
function bankHistory({ entries, plan }: Job) {
  const bank = plan.documents.kit.switchBank;
  const keys = bank?.switches.map((s) => `${bank.part}.${s}`) ?? [];
  return effective(entries)
    .flatMap((e) => (e.kind === "configure.switches" ? [e] : []))
    .reverse()
    .map(({ id, at, by, data: { settings, before } }) => ({
      id,
      at,
      by,
      values: keys.map((k) => settings[k] ?? "not known"),
      changed: keys.flatMap((k, i) => (before && before[k] !== settings[k] ? [i + 1] : [])),
    }));
}

/** Settings to make; entries of a menu with what each of their values does. */
function setsOf(job: Job) {
  const { plan, state } = job;
  const model = new Model(plan.fitted, {}, plan.settings);
  return plan.sets.map((s) => ({
    ...s,
    done: isSet(plan, state, s),
    load: state.loads.get(s.setting) ?? null,
    told: toldView(job, s),
    label: settingOf(plan.fitted, s.setting)?.label ?? "",
    values: s.means === "menu" ? settingValues(model, plan.settings, s.setting) : [],
  }));
}

/** What the module of a setting can be told by the translation of the job; null where it takes none. */
function toldView({ plan, state }: Job, { setting, means }: KitSetting) {
  const outputs = means === "programming" ? toldOutputs(plan, setting) : [];
  if (outputs.length === 0) return null;
  const rules = new Set(state.translation?.rules.map((r) => r.output));
  const load = state.loads.get(setting);
  return {
    outputs: outputs.map((id) => ({ id, ...OUTPUTS[id], rule: rules.has(id) })),
    proven: standingProof(state)?.outputs.every((o) => o.cued === 0 || o.passed) ?? false,
    /** It holds the translation of the job: as it is now, or as it was before it was changed. */
    loaded: !load?.translation ? null : load.translation === state.translation?.entry ? "this" : "before",
  } as const;
}

/** The programming plug of the kit as it stands. */
function plugView({ plan, state }: Job) {
  const plug = plan.documents.kit.programmingPlug;
  if (!plug) return null;
  const now = plugState(state.plugEvents, plug);
  return { plug, state: now, choices: plugChoices(now) };
}

/** Phones of the job and what the kit asks of them; null where its leaflet says nothing about phones. */
function phoneView(job: Job, now: string) {
  const rules = job.plan.documents.kit.phone;
  const phones = phonesOf(job.plan, job.state);
  if (!rules || !phones) return null;
  return {
    rules,
    phones,
    open: pairingOpen(job),
    /** Why nothing can come by wireless with what is connected and set now; null where it can. */
    cannot: job.once("wireless", () => wirelessNow(job)),
    noPower: noPower(job, now),
  };
}

/** The updates of the radio's firmware as they stand; null where none is to be made and none was. */
function firmwareView({ plan, state }: Job) {
  const { steps, present } = plan.firmware;
  const { running, interrupted, version } = state.firmware;
  if (steps.length === 0 && !running && !interrupted && version === null) return null;
  const [step] = steps;
  return {
    present,
    running,
    interrupted,
    /** The one that is next. */
    step: step
      ? {
          ...step,
          medium: mediumWords(step),
          effects: sideEffectsOf(plan.documents.variant, step),
          last: steps.length === 1,
        }
      : null,
    left: steps.length,
    atLeastVolts: UPDATE_VOLTS,
  };
}
