import type { ReactNode } from "react";
import type { LaidOut } from "~/app/lib/lay-out";
import { useLayout } from "~/app/lib/use-layout";
import type { useProfileCheck } from "~/app/lib/use-profile-check";
import type { Reference } from "~/app/server/library.server";
import type { DrawingGraph } from "~/core/connect/drawing";
import type { LedgerLine } from "~/core/fit/ledger";
import type { Gap } from "~/core/library/gap";
import { Section } from "../controls";
import { Mark, Notice, VerdictMark } from "../marks";
import { SystemDrawing, SystemShape } from "./system-drawing";

/** What a document does: the check, the functions it gives on a reference car, the system drawn. */
export function TryOut({
  document,
  checked,
  drawing = null,
  reference,
  choose,
  mend,
  nameOfField,
  stacked = false,
}: {
  document: unknown;
  /** How it stands, see `useProfileCheck`. */
  checked: ReturnType<typeof useProfileCheck>;
  /** The system as it came with the page. */
  drawing?: LaidOut | null;
  reference: Reference | null;
  choose?: ReactNode;
  /** A button that leads to the field in which a gap is mended. */
  mend?: (field: string) => ReactNode;
  /** A place of the document as its form calls it. */
  nameOfField?: (path: string) => string;
  stacked?: boolean;
}) {
  const { check, gaps, busy } = checked;
  const lines = byFunction(check?.lines ?? []);
  const { document: named, archetype } = document as { document?: string; archetype?: string };
  const kind = named ?? (archetype === "car" || archetype === "variant" ? archetype : "kit");
  const isMap = kind === "coding" || kind === "busMap";
  return (
    <div
      className={
        stacked
          ? "flex flex-col-reverse justify-end"
          : "grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-[minmax(0,1fr)_24rem]"
      }
    >
      {!isMap && (
        <Section title="The system" id="drawing" aside={busy && check ? "Trying it ..." : reference?.label}>
          <Drawn graph={check?.graph ?? null} first={drawing} wrong={check?.problem != null} />
        </Section>
      )}
      <Section
        title={kind === "kit" ? "What it gives" : isMap ? "Whether it is sound" : "What works"}
        id="gives"
        aside={!isMap && (choose ?? (kind === "kit" && reference?.label))}
      >
        <div aria-live="polite">
          {check?.problem && (
            <Notice
              tone="stop"
              title={check.fields[0] && nameOfField ? nameOfField(check.fields[0].path) : check.problem.where}
            >
              <p>
                {check.problem.problem} {check.problem.remedy}
              </p>
              {check.fields[0] && mend?.(check.fields[0].path.split(".")[0] ?? "")}
            </Notice>
          )}
          {check && !check.problem && !busy && (
            <Mark tone="good">{isMap ? "It contradicts nothing" : "Everything it names is there"}</Mark>
          )}
          {kind === "kit" && !reference && !busy && (
            <p className="mt-2 text-quiet">No radio of the library takes this kit as it stands.</p>
          )}
          {check?.verdict && <p className="mt-2">{check.verdict.text}</p>}
          {!check && !isMap && <LinesShape />}
          <ul className="mt-2">
            {lines.map((l) => (
              <li key={l.functionId} className="flex items-start gap-3 border-b border-rule py-1.5">
                <span className="w-28 shrink-0">
                  {kind === "kit" ? (
                    <VerdictMark verdict={l.verdict} />
                  ) : l.verdict === "kept" ? (
                    <Mark tone="good">Works</Mark>
                  ) : (
                    <Mark tone="watch">Not yet</Mark>
                  )}
                </span>
                <span>
                  {l.name}
                  {(l.verdict === "lost" || l.verdict === "never") && (
                    <span className="block text-sm text-quiet">{l.causes.slice(0, 2).join(" ")}</span>
                  )}
                </span>
              </li>
            ))}
          </ul>
        </div>
        {!check?.problem && <Gaps gaps={gaps} mend={mend} />}
      </Section>
    </div>
  );
}

/** The shape of the functions that are being tried. */
function LinesShape() {
  return (
    <div role="status" aria-label="It is being tried" className="mt-2">
      {[56, 72, 64, 48, 68, 60].map((width) => (
        <div key={width} className="flex items-center gap-3 border-b border-rule py-3">
          <div className="h-5 w-24 rounded-sm bg-rule/60" />
          <div className="h-5 rounded-sm bg-rule/60" style={{ width: `${width}%` }} />
        </div>
      ))}
    </div>
  );
}

function Drawn({ graph, first, wrong }: { graph: DrawingGraph | null; first: LaidOut | null; wrong: boolean }) {
  const { drawing } = useLayout(graph, first);
  if (drawing) return <SystemDrawing drawing={drawing} />;
  return wrong ? <p className="text-quiet">Drawn once it makes sense.</p> : <SystemShape />;
}

const GAP_WORDS: Readonly<Record<Gap["kind"], string>> = {
  function: "Cannot be tested",
  fault: "Nobody would notice",
  place: "Not reached",
  plug: "Not reached",
  lead: "Lead",
  setting: "Setting",
  drawing: "Not drawn",
  inspection: "Tells nothing",
};

/** What the document leaves open, each with the way to mend it. */
function Gaps({ gaps, mend }: { gaps: readonly Gap[] | null; mend: ((field: string) => ReactNode) | undefined }) {
  if (gaps === null) return <p className="mt-4 text-quiet">Looking what is left open ...</p>;
  return (
    <section aria-labelledby="open-in-document" className="mt-5">
      <h3 id="open-in-document" className="flex items-baseline justify-between">
        Left open <span className="num font-normal text-quiet">{gaps.length}</span>
      </h3>
      {gaps.length === 0 && (
        <p>
          <Mark tone="good">Nothing is left open</Mark>
        </p>
      )}
      <ul>
        {gaps.map((g) => (
          <li key={g.say} className="flex items-center justify-between gap-3 border-b border-rule py-2">
            <span className="min-w-0">
              <Mark tone="watch">{GAP_WORDS[g.kind]}</Mark> {g.say} <span className="text-quiet">{g.remedy}</span>
            </span>
            {mend?.(g.field)}
          </li>
        ))}
      </ul>
    </section>
  );
}

const WORST: LedgerLine["verdict"][] = ["lost", "never", "faulty", "changed", "gained", "kept"];

/** One line a function, with the worst verdict of its situations; gains first. */
function byFunction(lines: readonly LedgerLine[]): LedgerLine[] {
  const found = new Map<string, LedgerLine>();
  for (const line of lines) {
    const before = found.get(line.functionId);
    if (!before || WORST.indexOf(line.verdict) < WORST.indexOf(before.verdict)) found.set(line.functionId, line);
  }
  const order: LedgerLine["verdict"][] = ["gained", "lost", "never", "changed", "kept"];
  return [...found.values()].sort((a, b) => order.indexOf(a.verdict) - order.indexOf(b.verdict));
}
