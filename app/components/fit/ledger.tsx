import { Link } from "react-router";
import type { LedgerLine, LedgerVerdict } from "~/core/fit/ledger";
import { Focus } from "../bench/focus";
import { Mark, VerdictMark } from "../marks";

const ORDER: LedgerVerdict[] = ["lost", "never", "faulty", "gained", "changed", "kept"];

/** Every function before and after, what is lost first, each line with its cause. */
export function Ledger({ lines, why }: { lines: LedgerLine[]; why: (line: LedgerLine) => string }) {
  const sorted = [...lines].sort((a, b) => ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict));
  const count = (v: LedgerVerdict) => lines.filter((l) => l.verdict === v).length;
  return (
    <Focus
      title="Gained, kept, lost"
      kicker={`${count("gained")} gained, ${count("kept")} kept, ${count("changed")} changed, ${count("lost")} lost${count("faulty") > 0 ? `, ${count("faulty")} failed before` : ""}`}
    >
      <p className="mb-2 max-w-prose text-quiet">
        Computed by trying every function on the car as built and on the car with the kit.
      </p>
      <table className="w-full">
        <thead className="sr-only">
          <tr>
            <th scope="col">Verdict</th>
            <th scope="col">Function</th>
          </tr>
        </thead>
        <tbody>
          {sorted.map((l) => (
            <tr key={`${l.functionId}/${l.situationId}`} className="border-b border-rule align-top first:border-t">
              <td className="w-32 py-2.5 pr-3">
                <VerdictMark verdict={l.verdict} />
              </td>
              <td className="py-2.5">
                <span className="font-medium">{l.name}</span> <span className="text-quiet">{l.label}</span>
                {l.who === "law" && (
                  <span className="ml-2">
                    <Mark tone="none">Required by law</Mark>
                  </span>
                )}
                {(l.verdict === "lost" || l.verdict === "never") && (
                  <Link
                    to={why(l)}
                    preventScrollReset
                    className="ml-3 inline-flex min-h-8 items-center text-sm underline"
                  >
                    Show where it stops
                  </Link>
                )}
                {l.untried && <span className="block text-quiet">Not tried on this car yet.</span>}
                {l.causes.map((c) => (
                  <span key={c} className="block text-quiet">
                    {c}
                  </span>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Focus>
  );
}
