import type { LedgerLine, LedgerVerdict } from "~/core/fit/ledger";
import { VerdictMark } from "../marks";

/** What changes for the customer, beside the offer: the rest is kept. */
export function Balance({ lines }: { lines: readonly LedgerLine[] }) {
  const changes: LedgerVerdict[] = ["lost", "never", "faulty", "changed", "gained"];
  const kept = lines.filter((l) => l.verdict === "kept");
  const untried = kept.filter((l) => l.untried).length;
  return (
    <section aria-label="What changes for the customer">
      <h2 className="mb-2">What changes</h2>
      <ul>
        {changes
          .flatMap((v) => lines.filter((l) => l.verdict === v))
          .map((l) => (
            <li
              key={`${l.functionId}/${l.situationId}`}
              className="flex items-center justify-between gap-3 border-b border-rule py-1.5 leading-tight"
            >
              <span>
                {l.name} <span className="text-sm text-quiet">{l.label}</span>
              </span>
              <VerdictMark verdict={l.verdict} />
            </li>
          ))}
      </ul>
      <p className="mt-2 text-quiet">
        <span className="num">{kept.length}</span>{" "}
        {kept.length === 1 ? "function stays as it is" : "functions stay as they are"}
        {untried > 0 ? `, ${untried === kept.length ? "none" : `${untried} of them not`} tried on this car yet` : ""}.
      </p>
    </section>
  );
}
