import { type Draw, loadOf } from "~/core/power/budget";
import type { SituationLoad } from "~/core/power/job";
import { Focus } from "../bench/focus";

/** What the kit draws in each situation, as the behaviour model says who is on. */
export function Loads({ loads, draws }: { loads: SituationLoad[]; draws: Draw[] }) {
  return (
    <Focus kicker="As the behaviour model says who is on" title="Load by situation">
      <table className="w-full">
        <thead>
          <tr className="text-left text-sm text-quiet">
            <th className="py-1 font-normal">Situation</th>
            <th className="py-1 text-right font-normal">On, A</th>
            <th className="py-1 pl-3 text-right font-normal">Asleep, mA</th>
          </tr>
        </thead>
        <tbody>
          {loads.map((l) => (
            <tr key={l.id} className="border-t border-rule align-top">
              <td className="py-1.5 pr-3">
                {l.label}
                <span className="block text-sm text-quiet">{l.on.join(", ") || "nothing is on"}</span>
              </td>
              <td className="num py-1.5 text-right">{l.steadyA.toFixed(2)}</td>
              <td className="num py-1.5 pl-3 text-right">{l.sleepMa.toFixed(0)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-sm text-quiet">
        Over time, with each part on for its share: <span className="num">{loadOf(draws).steadyA.toFixed(2)} A</span>.
        Fuse and wire carry everything at once.
      </p>
    </Focus>
  );
}
