import type { Difference } from "~/core/library/differences";
import { Mark } from "../marks";

const MAX = 60;

/** What a version changed, field by field. */
export function DifferenceList({
  differences,
  before,
  after,
}: {
  differences: Difference[];
  before: number;
  after: number;
}) {
  return (
    <>
      <h3 className="font-medium">
        What version {after} changed against version {before}
      </h3>
      {differences.length === 0 && <p className="text-quiet">Nothing.</p>}
      <ul>
        {differences.slice(0, MAX).map((d) => (
          <li key={d.path} className="border-b border-rule py-2">
            <Mark tone="none">{d.change}</Mark> <span className="ml-2">{d.path}</span>
            <span className="block">
              {d.before && <del className="mr-3 text-quiet">{d.before}</del>}
              {d.after && <ins className="font-medium no-underline">{d.after}</ins>}
            </span>
          </li>
        ))}
      </ul>
      {differences.length > MAX && <p className="text-quiet">and {differences.length - MAX} more</p>}
    </>
  );
}
