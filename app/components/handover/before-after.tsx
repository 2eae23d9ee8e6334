import type { ReportLine } from "~/core/job/report";
import { Focus } from "../bench/focus";
import { ScrollX } from "../controls";
import { Mark, ResultMark } from "../marks";

/** What worked before and what works now, function by function. */
export function BeforeAfter({ lines }: { lines: ReportLine[] }) {
  return (
    <Focus kicker="Baseline against the last tests" title="Before and after">
      <ScrollX label="Before and after">
        <table className="w-full">
          <thead>
            <tr className="border-b border-strong text-left text-sm">
              <th scope="col" className="py-2 pr-3 font-medium">
                Function
              </th>
              <th scope="col" className="w-28 py-2 pr-2 font-medium">
                Before
              </th>
              <th scope="col" className="w-28 py-2 font-medium">
                After
              </th>
            </tr>
          </thead>
          <tbody>
            {lines.map((l) => (
              <tr key={l.id} className="border-b border-rule align-top">
                <td className="py-2 pr-3">
                  <span className="font-medium">{l.name}</span> <span className="text-quiet">{l.label}</span>
                </td>
                <td className="py-2 pr-3">
                  {l.before === "new" ? <Mark tone="none">New</Mark> : <ResultMark result={l.before ?? undefined} />}
                </td>
                <td className="py-2">
                  {l.after === "given up" ? (
                    <Mark tone="watch">Given up</Mark>
                  ) : (
                    <ResultMark result={l.after ?? undefined} />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </ScrollX>
    </Focus>
  );
}
