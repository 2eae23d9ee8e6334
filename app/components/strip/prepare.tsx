import type { Minutes } from "~/core/model/profile";
import type { Goal } from "~/core/strip/goals";
import { Focus } from "../bench/focus";
import { Notice } from "../marks";

/** “45 to 54 min”. */
export function range(m: Minutes): string {
  const low = Math.round(m.low);
  const high = Math.ceil(m.high);
  return low === high ? `${low} min` : `${low} to ${high} min`;
}

/** What to put on the cart and what to cover, and what two people can do side by side. */
export function Prepare({
  tools,
  covers,
  time,
}: {
  tools: string[];
  covers: string[];
  time: { one: Minutes; two: Minutes; together: string[] };
}) {
  if (tools.length === 0) return null;
  return (
    <Focus kicker={`${range(time.one)} alone`} title="For the cart">
      <ol className="flex flex-wrap gap-x-5 gap-y-1">
        {tools.map((t, i) => (
          <li key={t}>
            <span className="num text-quiet">{i + 1}</span> {t}
          </li>
        ))}
      </ol>
      <p className="text-sm text-quiet">In the order of first use.</p>
      {covers.length > 0 && <p className="mt-2">Cloth and tape for: {covers.join(", ")}.</p>}
      {time.together.length > 0 && (
        <details className="mt-2">
          <summary className="min-h-11 cursor-pointer py-2">
            By two: <span className="num">{range(time.two)}</span>
          </summary>
          <ul className="space-y-1">
            {time.together.map((t) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
          <p className="mt-1 text-sm text-quiet">
            Key, selector and brake are for both: nobody works while they change. Two people do not fit into one place.
          </p>
        </details>
      )}
    </Focus>
  );
}

/** Goals that the plan of the car does not reach: each with what to do. */
export function Unreached({ goals }: { goals: Goal[] }) {
  if (goals.length === 0) return null;
  return (
    <Notice tone="watch" title={`The strip plan of this car does not reach ${goals.length === 1 ? "this" : "these"}`}>
      <ul>
        {goals.map((g) => (
          <li key={g.id}>{g.say}</li>
        ))}
      </ul>
      <p>
        Add the step below when you have found the way; after the job it can go into the plan of the car, so that the
        next one has it.
      </p>
    </Notice>
  );
}
