/** What a document leaves open: functions nobody can test, faults no test shows, places no step reaches, and the like. */
import { offersOf } from "../fit/offers";
import type { Documents } from "../fit/resolve-fit";
import { type JobPlan, planJob } from "../job/plan";
import { lengthsOf } from "../lengths/job";
import { emptyJournal } from "../log/fold";
import type { Choices } from "../model/compose";
import { CoreError } from "../model/errors";
import { type Fault, singleFaults } from "../model/faults";
import { askedChoices } from "../model/kit-condition";
import { predictedCodes } from "../model/monitors";
import { Model } from "../model/outcome";
import { findPort } from "../model/ports";
import type { KitProfile, StripPlan } from "../model/profile";
import type { FunctionSpec, Part, System } from "../model/types";
import type { Test } from "../prove/tests";
import { isFree } from "../strip/goals";
import { planRoute } from "../strip/route";
import { type Gap, idleInspections, missingBacks } from "./gap";

/** Ways of working beside the default one are looked at one by one; more would be a search without end. */
const MAX_WAYS = 80;

/**
 * What a kit leaves open on a car with a radio.
 *
 * @throws {CoreError} when the kit cannot be planned there at all
 */
export function kitCoverage(documents: Documents): Gap[] {
  const { kit } = documents;
  // Some radios take a kit only with another option than the usual one.
  const working = [{}, ...waysOf(kit)].find((choices) => planOrNull(documents, choices) !== null) ?? {};
  const plan = planJob(documents, { choices: working });
  return [
    ...untestable(documents),
    ...unseenFaults(documents, plan),
    ...unreachedPlaces(plan),
    ...unplannedLeads(plan),
    ...idleSettings(kit),
    ...missingBacks(kit.parts),
    ...idleInspections(new Model(plan.fitted, {}, plan.settings)),
  ];
}

/** Every offer of a kit, and each other way of working with the default offer. */
function waysOf(kit: KitProfile): Choices[] {
  const methods = kit.choices
    .filter((c) => c.kind === "method" && askedChoices(kit, {}).includes(c))
    .flatMap((c) => c.options.filter((o) => o.id !== c.default).map((o) => ({ [c.id]: o.id })));
  return [...offersOf(kit), ...methods].slice(0, MAX_WAYS);
}

/** Functions of the kit that apply here and work in no situation with any of its choices. */
function untestable(documents: Documents): Gap[] {
  const { kit } = documents;
  const failing = new Map<string, { name: string; why: string }>();
  const working = new Set<string>();
  for (const choices of waysOf(kit)) {
    const plan = planOrNull(documents, choices);
    if (!plan) continue;
    const model = new Model(plan.fitted, {}, plan.settings);
    for (const fn of plan.fitted.functions) {
      if (working.has(fn.id) || !kit.functions.some((f) => f.id === fn.id)) continue;
      if (fn.situations.some((s) => model.see(fn, s.id).kind === "ok") || inSomeWayOut(plan, fn.id)) working.add(fn.id);
      else failing.set(fn.id, { name: fn.name, why: whyNever(plan, model, fn) });
    }
  }
  return [...failing].flatMap(([id, { name, why }]): Gap[] =>
    working.has(id)
      ? []
      : [
          {
            kind: "function",
            say: `${name}: it works in no situation with any choice on this radio. ${why}`.trim(),
            remedy: "Look where its signal stops, or give the function a condition.",
            field: "functions",
          },
        ],
  );
}

/** Where functions cannot be had together, one that some way out keeps can be tried. */
function inSomeWayOut({ switches }: JobPlan, fn: string): boolean {
  return (switches?.conflict ?? []).some((way) => !way.givesUp.some((g) => g.id === fn));
}

function whyNever({ fitted, switches }: JobPlan, model: Model, fn: FunctionSpec): string {
  const seenThere = (f: FunctionSpec) => f.observe.some((o) => fn.observe.some((x) => x.at === o.at));
  const law = fitted.functions.filter((f) => f.who === "law" && f.id !== fn.id && seenThere(f)).map((f) => f.name);
  if (switches && switches.conflict.length > 0 && law.length > 0)
    return `It cannot be had beside what the law asks for: ${law.join(", ")}.`;
  const { outcome } = model.try(fn, fn.situations[0]?.id ?? "");
  return outcome.kind === "absent" ? (outcome.break.reasons[0] ?? "") : "";
}

function planOrNull(documents: Documents, choices: Choices): JobPlan | null {
  try {
    return planJob(documents, { choices });
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}

/**
 * Faults of what the job touches that neither a test nor a monitor would show, with the usual choices and with every
 * option taken: nobody notices them before the customer does. What carries nothing is not missed.
 */
function unseenFaults(documents: Documents, usual: JobPlan): Gap[] {
  const fullest = Object.fromEntries(documents.kit.choices.map((c) => [c.id, c.options.at(-1)?.id ?? c.default]));
  const full = planOrNull(documents, fullest);
  const unseen = unseenOf(usual);
  // A switch that stands otherwise with other options is the same switch.
  const name = (f: Fault) => (f.kind === "setting" ? Object.keys(f.disturbance.settings ?? {}).join() : f.id);
  const elsewhere = full && new Set(unseenOf(full).map(name));
  const stillThere = full && new Set(singleFaults(full.fitted, full.touched).map(name));
  return unseen
    .filter((f) => !elsewhere || elsewhere.has(name(f)) || !stillThere?.has(name(f)))
    .map((f) => ({
      kind: "fault",
      say: `${f.title}: no test would show it.`,
      remedy: "Add a function that needs it, or take it out.",
      field: "functions",
    }));
}

function unseenOf(plan: JobPlan): Fault[] {
  const { fitted, settings, tests, touched } = plan;
  const sound = new Model(fitted, {}, settings);
  const seen = tests.map((t) => sound.sight(t.fn, t.situationId));
  const codes = (model: Model) =>
    predictedCodes(model, settings)
      .map((c) => c.monitor)
      .join();
  const known = codes(sound);
  const carries = carrying(sound, tests);
  return singleFaults(fitted, touched).filter((f) => {
    const ours = f.links.some((l) => touched.links.has(l)) || f.parts.some((p) => touched.parts.has(p));
    // Contacts of the car's own plugs are no gap of a kit's document.
    if (f.normal || !ours || f.kind === "pushedBack" || f.kind === "crossed") return false;
    const faulty = sound.under(f.disturbance);
    if (tests.some((t, i) => faulty.sight(t.fn, t.situationId) !== seen[i]) || codes(faulty) !== known) return false;
    return carries(f) && (f.kind !== "setting" || isRead(plan, f));
  });
}

/** Whether anything flows, in any test, through what a fault opens. */
function carrying(model: Model, tests: readonly Test[]): (fault: Fault) => boolean {
  const { system } = model;
  const arrives = (ref: string) =>
    tests.some((t) =>
      (["in", "out"] as const).some((side) => model.evaluate(t.situation).arrivals(ref, side).length > 0),
    );
  const contactsOf = (ref: string) => findPort(system, ref)?.contacts.map((c) => `${ref}.${c.id}`) ?? [];
  return ({ kind, disturbance, links }) => {
    if (kind === "leadOpen") {
      const [name = ""] = Object.keys(disturbance.openJoins ?? {});
      const [id, join] = name.split("/");
      const joins = system.parts.find((p) => p.id === id)?.joins ?? [];
      const opened = join === undefined ? joins : joins.filter((_, i) => i === Number(join));
      return joins.length === 0 || opened.some((j) => j.contacts.some((c) => arrives(`${id}.${c}`)));
    }
    if (kind !== "notPlugged") return true;
    const ends = system.links.filter((l) => links.includes(l.id)).flatMap((l) => [l.a, l.b]);
    const [a = "", b = ""] = ends;
    // What is the same on both halves is what goes through.
    const shared = contactsOf(a).filter((c) => contactsOf(b).some((d) => d.split(".")[2] === c.split(".")[2]));
    return shared.some(arrives);
  };
}

/** Whether any condition of the kit looks at the setting that a fault changes. */
function isRead({ documents }: JobPlan, { disturbance }: Fault): boolean {
  const [key = ""] = Object.keys(disturbance.settings ?? {});
  const [part, setting] = key.split(".");
  const own = documents.kit.parts.find((p) => p.id === part);
  return JSON.stringify([own?.routes, own?.sources, own?.messages]).includes(`"setting":"${setting}"`);
}

function unreachedPlaces(plan: JobPlan): Gap[] {
  const { unreached } = planRoute({ ...plan.strip, measured: {} }, emptyJournal());
  return unreached.map((g) => ({
    kind: "place",
    say: `No step of the strip plan reaches ${g.place ?? g.say}.`,
    remedy: "Say in the strip plan of the car which step reaches it.",
    field: "reach",
  }));
}

function unplannedLeads({ documents, fitted, applies }: JobPlan): Gap[] {
  const { car, kit } = documents;
  const { leads } = lengthsOf(car, kit, fitted, applies, new Map());
  const planned = new Set((kit.leads ?? []).map((l) => l.part));
  return [
    ...leads.flatMap((l): Gap[] =>
      l.check && l.check.verdict !== "unknown"
        ? []
        : [
            {
              kind: "lead",
              say: l.problem ? `${l.name}: ${l.problem}` : `${l.name}: its length is not known.`,
              remedy: "Measure it and enter its length at the part.",
              field: l.problem ? "leads" : "parts",
            },
          ],
    ),
    ...kit.parts.flatMap((p): Gap[] =>
      p.type === "lead" &&
      !planned.has(p.id) &&
      (p.lengthM ?? 1) >= LONG_LEAD_M &&
      applies(p) &&
      !isPhones(fitted, car.stripPlan, p)
        ? [
            {
              kind: "lead",
              say: `${p.name}: nobody has said where it runs.`,
              remedy: "Enter its two ends under the ways of leads.",
              field: "leads",
            },
          ]
        : [],
    ),
  ];
}

/** A harness or a ribbon stays where it is; what is longer runs somewhere. */
const LONG_LEAD_M = 1;

/** A cable between the phone and a socket that is free to hands lies where its owner leaves it. */
function isPhones({ links }: System, free: StripPlan, { id }: Pick<Part, "id">): boolean {
  const ends = links
    .filter((l) => [l.a, l.b].some((e) => e.startsWith(`${id}.`)))
    .map((l) => (l.a.startsWith(`${id}.`) ? l.b : l.a));
  const byHand = (end: string) => isFree(free, { id: end, say: end, ports: [end] });
  return ends.some((e) => e.startsWith("phone.")) && ends.every((e) => e.startsWith("phone.") || byHand(e));
}

/** Settings of the kit's parts that nothing looks at: setting them changes nothing. */
function idleSettings(kit: KitProfile): Gap[] {
  const bank = new Set(kit.switchBank?.switches ?? []);
  return kit.parts.flatMap((part) =>
    (part.settings ?? []).flatMap((s): Gap[] => {
      const told =
        JSON.stringify([part.routes, part.sources, part.messages, kit.actions]).includes(`"setting":"${s.id}"`) ||
        kit.sets.some((x) => x.setting === `${part.id}.${s.id}`) ||
        (kit.monitors ?? []).some((m) => m.armed?.setting === `${part.id}.${s.id}`);
      if (told || s.follows || (kit.switchBank?.part === part.id && bank.has(s.id))) return [];
      return [
        {
          kind: "setting",
          say: `${part.name}, ${s.label}: nothing depends on it and nobody says how it must stand.`,
          remedy: "Say what it changes, or how it is set.",
          field: "sets",
        },
      ];
    }),
  );
}
