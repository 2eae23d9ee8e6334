/** What the document of a car or of a radio leaves open. */
import { composeStock } from "../model/compose";
import { describePort } from "../model/labels";
import { Model } from "../model/outcome";
import { findPort } from "../model/ports";
import type { CarProfile, StripStep, VariantProfile } from "../model/profile";
import type { System } from "../model/types";
import { isFree, isPlainList, reaches } from "../strip/goals";
import { type Gap, idleInspections, missingBacks } from "./gap";

/** What a car leaves open, with one of its radios where there is one. */
export function carCoverage(car: CarProfile, variant: VariantProfile | null): Gap[] {
  const stock = variant && variant.car === car.id ? composeStock(car, variant) : null;
  return [
    ...(stock ? [...failingAsBuilt(stock), ...unreachedPlugs(car, stock), ...idleInspections(new Model(stock))] : []),
    ...wayPlaces(car),
    ...missingDrawings(car, variant),
  ];
}

/** What a radio leaves open in its car. */
export function variantCoverage(car: CarProfile, variant: VariantProfile): Gap[] {
  return [
    ...failingAsBuilt(composeStock(car, variant)),
    ...(variant.dash
      ? []
      : [
          {
            kind: "drawing" as const,
            say: "How it looks in the dash is not drawn: the finder asks in words only.",
            remedy: "Enter its shapes.",
            field: "dash",
          },
        ]),
    ...missingBacks(variant.parts),
  ];
}

function failingAsBuilt(stock: System): Gap[] {
  const model = new Model(stock);
  return stock.functions.flatMap((fn) =>
    fn.situations.flatMap((s): Gap[] => {
      if (model.see(fn, s.id).kind === "ok") return [];
      const { outcome } = model.try(fn, s.id);
      const why = outcome.kind === "absent" ? (outcome.break.reasons[0] ?? "") : "";
      return [
        {
          kind: "function",
          say: `${fn.name}, ${s.label}: it does not work as built. ${why}`.trim(),
          remedy: "Look where its signal stops.",
          field: "functions",
        },
      ];
    }),
  );
}

/** Plugs that no step of the plan brings within reach. */
function unreachedPlugs(car: CarProfile, stock: System): Gap[] {
  const plan = car.stripPlan;
  if (isPlainList(plan)) return [];
  return stock.links.flatMap((l): Gap[] => {
    const goal = { id: l.id, say: l.id, ports: [l.a, l.b] };
    // Leads that are crimped or soldered have no plug to reach.
    const plugged = [l.a, l.b].some((ref) => findPort(stock, ref)?.connector);
    if (l.air || !plugged || isFree(plan, goal) || plan.steps.some((s) => reaches(s, goal))) return [];
    return [
      {
        kind: "plug",
        say: `${describePort(stock, l.a)} – ${describePort(stock, l.b)}: no step reaches it.`,
        remedy: "Say in the strip plan which step brings it within reach.",
        field: "stripPlan",
      },
    ];
  });
}

/** Places at the ends of ways that no step reaches and that are not free. */
function wayPlaces(car: CarProfile): Gap[] {
  const plan = car.stripPlan;
  if (isPlainList(plan)) return [];
  const places = [...new Set((car.runs ?? []).flatMap((r) => [r.from, r.to]))];
  return places.flatMap((place): Gap[] => {
    const goal = { id: place, say: place, place };
    if (isFree(plan, goal) || plan.steps.some((s) => reaches(s, goal))) return [];
    return [
      {
        kind: "place",
        say: `${place}: leads run there and no step reaches it.`,
        remedy: "Say in the strip plan which step reaches it, or that it is free.",
        field: "stripPlan",
      },
    ];
  });
}

/** Panels that are not part of the dash. */
const BESIDE: ReadonlySet<StripStep["side"]> = new Set(["rear", "tailgate", "engineBay"]);

function missingDrawings(
  { drawings, fusePanel, parts, stripPlan, runs }: CarProfile,
  variant: VariantProfile | null,
): Gap[] {
  const gap = (say: string, remedy: string, field: string): Gap => ({ kind: "drawing", say, remedy, field });
  const drawn = new Set(drawings?.plan?.places.map((p) => p.name));
  const shapes = [...(drawings?.dash?.shapes ?? []), ...(variant?.dash ?? [])];
  const panels = new Set(shapes.flatMap((s) => s.panel ?? []));
  // What the radio brings is drawn with the radio.
  const ofRadio = (s: StripStep) => !variant && (s.opens ?? []).some((o) => !has(o.a) || !has(o.b));
  const has = (ref: string) => parts.some((p) => ref.startsWith(`${p.id}.`));
  const lost = [...new Set((runs ?? []).flatMap((r) => [r.from, r.to]))].filter((p) => drawings?.plan && !drawn.has(p));
  const blank = stripPlan.steps.flatMap((s) =>
    s.panel && drawings?.dash && !panels.has(s.panel) && !BESIDE.has(s.side) && !ofRadio(s) && !s.when ? [s.panel] : [],
  );
  return [
    ...(drawings?.dash ? [] : [gap("The dash is not drawn: words take its place.", "Enter its shapes.", "drawings")]),
    ...(drawings?.plan ? [] : [gap("The car from above is not drawn.", "Enter outline and places.", "drawings")]),
    ...lost.map((p) => gap(`${p}: it has no spot on the car from above.`, "Enter where it is.", "drawings")),
    ...[...new Set(blank)].map((p) =>
      gap(`${p}: it is not on the drawing of the dash.`, "Enter its outline.", "drawings"),
    ),
    ...((fusePanel ?? []).some((f) => !f.at)
      ? [gap("The fuse panel: column and row are not known of every position.", "Enter both.", "fusePanel")]
      : []),
  ];
}
