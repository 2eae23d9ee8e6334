import { type Draw, loadOf } from "~/core/power/budget";
import type { SituationLoad } from "~/core/power/job";
import { Focus } from "../bench/focus";

/** What the kit draws in each situation, as the behaviour model says who is on. */
export function Loads({
  loads,
  draws,
  unknown,
}: {
  loads: SituationLoad[];
  draws: Draw[];
  /** Parts of which nobody says what they draw. */
  unknown: readonly string[];
}) {
  const known = draws.length > 0;
  const least = unknown.length > 0 ? "at least " : "";
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
                <span className="block text-sm text-quiet">{l.on.join(", ") || (known ? "nothing is on" : "")}</span>
              </td>
              <td className="num py-1.5 text-right">{known ? `${least}${l.steadyA.toFixed(2)}` : "not known"}</td>
              <td className="num py-1.5 pl-3 text-right">{known ? `${least}${l.sleepMa.toFixed(0)}` : "not known"}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {unknown.length > 0 && (
        <p className="mt-2 text-watch">
          Nobody says what {unknown.join(" and ")} {unknown.length === 1 ? "draws" : "draw"}: measure it before fuse and
          wire are chosen.
        </p>
      )}
      {known && (
        <p className="mt-2 text-sm text-quiet">
          Over time, with each part on for its share: <span className="num">{loadOf(draws).steadyA.toFixed(2)} A</span>.
          Fuse and wire carry everything at once.
        </p>
      )}
    </Focus>
  );
}
