import { useMoney } from "~/app/lib/money";
import { hoursRange } from "~/core/fit/hours";
import type { NeedLine } from "~/core/fit/needs";
import type { Offer } from "~/core/fit/offer";
import type { WiderWay } from "~/core/fit/try-first";
import { Focus } from "../bench/focus";
import { Mark } from "../marks";

const GROUPS: { title: string; kinds: NeedLine["kind"][] }[] = [
  { title: "Order or lay ready", kinds: ["part", "material", "tool"] },
  { title: "Before the visit", kinds: ["firmware", "programming", "licence"] },
  { title: "On the car", kinds: ["wire", "drilling", "coding", "person", "choice"] },
];
const KIND_WORDS: Record<NeedLine["kind"], string> = {
  part: "Part",
  material: "Material",
  tool: "Tool",
  firmware: "Firmware",
  programming: "Loading",
  licence: "Law and right",
  wire: "Wire to run",
  drilling: "Drilling",
  coding: "Setting",
  person: "People",
  choice: "Choice",
};

/** Everything needed besides the box, by when it is needed. */
export function NeedsList({
  needs,
  time,
  box,
  tryFirst,
}: Pick<Offer, "needs" | "time" | "box"> & { tryFirst: readonly WiderWay[] }) {
  const price = useMoney();
  return (
    <Focus
      title="What it takes"
      kicker={
        <span className="num">
          {hoursRange(time.whole)}, of it {hoursRange(time.way)} to open and close · {price(needs.price)}
        </span>
      }
    >
      <div className="grid gap-x-8 gap-y-5 md:grid-cols-2">
        {GROUPS.map((g) => {
          const lines = needs.lines.filter((l) => g.kinds.includes(l.kind));
          return (
            <div key={g.title}>
              <h3 className="mb-1 font-medium">{g.title}</h3>
              {lines.length === 0 && <p className="text-quiet">Nothing.</p>}
              <ul className="space-y-2">
                {lines.map((l) => (
                  <li key={`${l.kind} ${l.say}`}>
                    <span className="text-sm text-quiet">{KIND_WORDS[l.kind]}</span>
                    {l.blocked && (
                      <span className="ml-2">
                        <Mark tone="stop">Cannot be had</Mark>
                      </span>
                    )}
                    <span className="block leading-snug">{l.say}</span>
                    {l.why && <span className="block text-sm text-quiet">{l.why}</span>}
                  </li>
                ))}
              </ul>
            </div>
          );
        })}
      </div>
      {tryFirst.length > 0 && (
        <>
          <h3 className="mt-4 mb-1 font-medium">Only if the first way fails</h3>
          <ul className="space-y-2">
            {tryFirst.map((w) => (
              <li key={`${w.choice} ${w.option}`}>
                <span className="block leading-snug">{w.words}</span>
                <span className="num text-sm text-quiet">
                  {Math.round(w.minutes)} min more{w.price !== 0 && `, ${price(w.price)}`}
                </span>
              </li>
            ))}
          </ul>
        </>
      )}
      {box.length > 0 && (
        <p className="mt-4 text-quiet">
          <span className="font-medium text-ink">In the box:</span> {box.join(", ")}.
        </p>
      )}
    </Focus>
  );
}
