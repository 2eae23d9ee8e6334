import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { Mark } from "../marks";

/** What somebody may report and what is as it must be on this car: nobody has to look for a cause. */
export function Cannot({ cannot }: Pick<ReturnType<typeof proveView>, "cannot">) {
  return (
    <Focus kicker="Reported, and as it must be" title="What is no fault here">
      <ul>
        {cannot.map(({ id, name, when, why, whatThen }) => (
          <li key={id} className="border-b border-rule py-2.5">
            <p className="flex flex-wrap items-center gap-2 font-medium">
              {name}
              {when.length > 0 && <span className="font-normal text-quiet">{when.join(", ")}</span>}
              <Mark tone="none">Nothing is broken</Mark>
            </p>
            {why.map((w) => (
              <p key={w}>{w}</p>
            ))}
            <p className="text-quiet">{whatThen}</p>
          </li>
        ))}
      </ul>
    </Focus>
  );
}
