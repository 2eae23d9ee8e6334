import type { connectView } from "~/core/views/connect";
import { Focus } from "../bench/focus";
import { Mark, Notice } from "../marks";

type View = ReturnType<typeof connectView>;

/** What would work with the key turned now; first what must not be, or is missing, before it is turned. */
export function WorksNow({ works, beforeSwitchingOn, failing }: Pick<View, "works" | "beforeSwitchingOn" | "failing">) {
  const working = works.filter((w) => w.works).length;
  return (
    <Focus kicker="As far as it is marked here" title="If I switch on now">
      {beforeSwitchingOn.map((b) => (
        <Notice key={b} tone="stop" title="First">
          <p>{b}</p>
        </Notice>
      ))}
      {failing > 0 && (
        <p className="text-watch">The bench test says otherwise: something is not as marked. Prove finds it.</p>
      )}
      <p className="text-quiet">
        {working} of {works.length} would work.
      </p>
      <ul>
        {works.map((w) => (
          <li key={w.id} className="flex items-center justify-between gap-3 border-b border-rule py-1">
            <span>
              {w.name} <span className="text-quiet">{w.label}</span>
            </span>
            <Mark tone={w.works ? "good" : "none"}>{w.works ? "Works" : "Not yet"}</Mark>
          </li>
        ))}
      </ul>
    </Focus>
  );
}
