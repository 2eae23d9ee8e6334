/** Building a document from its leaflet, the check while it is typed, and the report of what it leaves open. */
import { ledger } from "../../core/fit/ledger";
import { rankKits } from "../../core/fit/rank";
import { resolveFit } from "../../core/fit/resolve-fit";
import { kitCoverage } from "../../core/library/coverage";
import { readLeafletText } from "../../core/library/leaflet-text";
import { kitPartIds } from "../../core/model/compose";
import { buildLeaflet } from "../../profiles/archetypes";
import { shippedLeaflets, shippedLibrary } from "../../profiles/library";
import { checkProfile } from "../../profiles/read";
import { medianMs, report } from "./report";

const library = shippedLibrary();
const cars = library.flatMap((p) => (p.document === "car" ? [p] : []));
const radios = library.flatMap((p) => (p.document === "variant" ? [p] : []));
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));
const leaflets = shippedLeaflets();

const slowest = leaflets
  .map((l) => ({ id: l.id, ms: medianMs(3, () => buildLeaflet(l, cars)) }))
  .sort((a, b) => b.ms - a.ms)[0];
report({
  case: `build a document from its leaflet, the slowest of ${leaflets.length} (${slowest?.id})`,
  value: slowest?.ms ?? 0,
  unit: "ms",
  note: "aim: under 50",
});

/** The kit and radio with the most contacts together. */
const jobs = kits.flatMap((kit) =>
  radios.flatMap((variant) => {
    const car = cars.find((c) => c.id === variant.car);
    if (!car) return [];
    const [best] = rankKits({ car, variant, kits: [kit], wishes: [], firmware: "" });
    if (!best || best.verdict.level === "impossible") return [];
    const { fitted } = resolveFit({ car, variant, kit }, best.choices);
    const contacts = fitted.parts.flatMap((p) => p.ports.flatMap((q) => q.contacts)).length;
    return [{ car, variant, kit, contacts, choices: best.choices }];
  }),
);
jobs.sort((a, b) => b.contacts - a.contacts);
const [largest] = jobs;
if (!largest) throw new Error("no kit fits");
report({
  case: `check ${largest.kit.id} on ${largest.variant.id} as it is typed (${largest.contacts} contacts)`,
  value: medianMs(9, () => {
    const kit = checkProfile(JSON.parse(JSON.stringify(largest.kit)));
    if (kit.document !== "kit") throw new Error("no kit");
    const { stock, fitted, settings } = resolveFit({ ...largest, kit }, largest.choices);
    ledger(stock, fitted, settings, kitPartIds(kit));
  }),
  unit: "ms",
  note: "aim: under 150, in a worker, without the drawing",
});
report({
  case: `what ${largest.kit.id} leaves open: every offer planned, every fault against every test and monitor`,
  value: medianMs(3, () => kitCoverage(largest)),
  unit: "ms",
  note: "in a worker once nobody types",
});
const text = "SW3 front camera\nWhite 20-pin main plug, code C.\nPurple wire: camera supply\n".repeat(400);
report({
  case: "search the text of a leaflet, 1,200 lines",
  value: medianMs(5, () => readLeafletText(text, new Set(["switches", "radioPlug", "wires"]))),
  unit: "ms",
});
