import { useMoney } from "~/app/lib/money";
import { hoursRange } from "~/core/fit/hours";
import type { NeedLine, Needs } from "~/core/fit/needs";
import type { FitTime } from "~/core/fit/time";
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
export function NeedsList({ needs, time, box }: { needs: Needs; time: FitTime; box: string[] }) {
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
      {box.length > 0 && (
        <p className="mt-4 text-quiet">
          <span className="font-medium text-ink">In the box:</span> {box.join(", ")}.
        </p>
      )}
    </Focus>
  );
}
