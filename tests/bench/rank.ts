/** Ranking hundreds of kits with all their options and sound paths against one car, and where the time goes. */
import { type RankTimes, rankKits } from "../../core/fit/rank";
import type { KitProfile } from "../../core/model/profile";
import { shippedLibrary } from "../../profiles/library";
import { medianMs, report } from "./report";

const OFFERS = 600;
const library = shippedLibrary();
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));
const car = library.find((p) => p.id === "velmora-corrie-19");
const variant = library.find((p) => p.id === "velmora-corrie-19-r2");
if (car?.document !== "car" || variant?.document !== "variant") throw new Error("the library has no demonstration car");
/** The offers of one kit on this car. */
const offersOf = new Map(
  kits.map((kit) => [kit, rankKits({ car, variant, kits: [kit], wishes: [], firmware: "R2-118" })]),
);
const fits = (kit: KitProfile) => (offersOf.get(kit) ?? []).some((c) => c.verdict.level !== "impossible");

/** Copies of kits, each with a name of its own, until they make up so many offers. */
function copies(of: readonly KitProfile[], offers: number): KitProfile[] {
  const list: KitProfile[] = [];
  for (let i = 0, n = 0; n < offers; i++) {
    const kit = of[i % of.length] as KitProfile;
    list.push({ ...kit, id: `${kit.id}-${i}` });
    n += offersOf.get(kit)?.length ?? 0;
  }
  return list;
}
const [fitting, foreign] = [kits.filter(fits), kits.filter((kit) => !fits(kit))];

for (const [name, list] of [
  ["one in sixty fits", [...fitting, ...copies(foreign, OFFERS - OFFERS / 60)]],
  ["a quarter fit", [...copies(fitting, OFFERS / 4), ...copies(foreign, (3 * OFFERS) / 4)]],
] as const) {
  const times: RankTimes = { evaluateMs: 0, totalMs: 0 };
  const request = {
    car,
    variant,
    kits: list,
    wishes: [
      { id: "phonePicture", name: "Phone picture" },
      { id: "phoneSound", name: "Phone sound on four speakers" },
    ],
    firmware: "R2-118",
  };
  let offers = 0;
  let possible = 0;
  const value = medianMs(5, () => {
    times.evaluateMs = 0;
    const ranked = rankKits(request, () => performance.now(), times);
    offers = ranked.length;
    possible = ranked.filter((c) => c.verdict.level !== "impossible").length;
  });
  report({
    case: `rank ${list.length} kits with their options for one car, ${name} (${offers} offers, ${possible} fit)`,
    value,
    unit: "ms",
    note: `aim: under 300; ${((100 * times.evaluateMs) / times.totalMs).toFixed(0)} % of it solving switches and evaluating`,
  });
}
