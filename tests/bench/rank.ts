/** Ranking 500 kits with all their options and sound paths against one car, and where the time goes. */
import { type RankTimes, rankKits } from "../../core/fit/rank";
import { shippedLibrary } from "../../profiles/library";
import { medianMs, report } from "./report";

const KITS = 500;
const library = shippedLibrary();
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));
const car = library.find((p) => p.id === "velmora-corrie-19");
const variant = library.find((p) => p.id === "velmora-corrie-19-r2");
if (car?.document !== "car" || variant?.document !== "variant") throw new Error("the library has no demonstration car");
const many = Array.from({ length: KITS }, (_, i) => {
  const kit = kits[i % kits.length];
  if (!kit) throw new Error("the library has no kit");
  return { ...kit, id: `${kit.id}-${i}` };
});
/** The same library as shops have it: every car has plugs of its own, so that few of the kits go into any one. */
const ownPlugs = many.map((kit, i) =>
  i < kits.length
    ? kit
    : {
        ...kit,
        parts: kit.parts.map((part) => ({
          ...part,
          ports: part.ports.map((port) =>
            port.connector
              ? { ...port, connector: { ...port.connector, keying: `${port.connector.keying ?? ""}${i}` } }
              : port,
          ),
        })),
      },
);

for (const [name, list] of [
  ["each with the plugs of its own car", ownPlugs],
  ["a tenth of them made for just this car", many],
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
  let fitting = 0;
  const value = medianMs(5, () => {
    times.evaluateMs = 0;
    const ranked = rankKits(request, () => performance.now(), times);
    offers = ranked.length;
    fitting = ranked.filter((c) => c.verdict.level !== "impossible").length;
  });
  report({
    case: `rank ${KITS} kits with options for one car, ${name} (${offers} offers, ${fitting} fit)`,
    value,
    unit: "ms",
    note: `aim: under 300; ${((100 * times.evaluateMs) / times.totalMs).toFixed(0)} % of it solving switches and evaluating`,
  });
}
