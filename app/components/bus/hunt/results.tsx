import { useEffect, useState } from "react";
import type { useLog } from "~/app/lib/use-log";
import type { HuntCandidate, HuntShown } from "~/app/workers/log/hunt";
import type { Cue, Thing } from "~/core/bus/hunt/cues";
import { signalName } from "~/core/bus/hunt/finding";
import type { FoundSignal } from "~/core/bus/hunt/found";
import { idText } from "~/core/bus/identifier";
import { Button, Section } from "../../controls";
import { EntryButton } from "../../entry-form";
import { Mark, Notice } from "../../marks";
import { Evidence } from "./lanes";

export interface Cued {
  things: readonly Thing[];
  cues: readonly Cue[];
}

/** Looks for what was done on cue in a log that is read, and shows what was found. */
export function Results({
  file,
  cued,
  labels,
  found,
  hunt,
  cancel,
}: {
  file: string;
  cued: Cued;
  labels: Readonly<Record<string, readonly string[]>>;
  found: readonly FoundSignal[];
  hunt: ReturnType<typeof useLog>["hunt"];
  cancel(): void;
}) {
  const [share, setShare] = useState(0);
  const [shown, setShown] = useState<HuntShown | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the hunt is made once for a log and its cues
  useEffect(() => {
    let over = false;
    void hunt(cued.things, cued.cues, labels, (s) => {
      if (!over) setShare(s);
    }).then((result) => {
      if (!over) setShown(result);
    });
    return () => {
      over = true;
    };
  }, [file, cued]);
  if (!shown)
    return (
      <div className="flex flex-wrap items-center gap-3 py-4" aria-live="polite">
        <span>Looking for {cued.things.map((t) => t.name).join(", ")} ...</span>
        <progress value={share} max={1} className="w-60" aria-label="Looking" />
        <Button onClick={cancel}>Cancel</Button>
      </div>
    );
  const nextToKeep = shown.things.find((t) => t.candidates[0]?.sure && !found.some((f) => f.thing === t.thing.name));
  return (
    <>
      <Clock alignment={shown.alignment} />
      {shown.things.map((t) => (
        <ThingFound
          key={t.thing.id}
          file={file}
          of={t}
          durationS={shown.durationS}
          found={found}
          likely={t === nextToKeep}
        />
      ))}
    </>
  );
}

function Clock({ alignment: { shiftS, drift, sure } }: Pick<HuntShown, "alignment">) {
  const ms = Math.round(1000 * Math.abs(shiftS));
  const perHour = Math.abs(drift) * 3600;
  return (
    <p className="py-2 text-sm">
      What was done lies {ms} ms {shiftS < 0 ? "before" : "after"} the cues
      {perHour >= 1 && <>, and the clocks drift by {perHour.toFixed(1)} s an hour</>}.{" "}
      {sure > 0.5 ? (
        <span className="text-quiet">No other shift fits nearly as well.</span>
      ) : (
        <span className="text-watch">
          Another shift fits nearly as well; look at the pictures below before you believe it.
        </span>
      )}
    </p>
  );
}

function ThingFound({
  file,
  of: { thing, cues, candidates, excluded, next },
  durationS,
  found,
  likely,
}: {
  file: string;
  of: HuntShown["things"][number];
  durationS: number;
  found: readonly FoundSignal[];
  /** Keeping its first candidate is the next thing to do. */
  likely: boolean;
}) {
  const [at, setAt] = useState(0);
  const candidate = candidates[at];
  const kept = found.find((f) => f.thing === thing.name);
  return (
    <Section title={thing.name} id={`found-${thing.id}`} aside={<Verdict first={candidates[0]} kept={kept} />}>
      {candidate ? (
        <>
          <Told candidate={candidate} rest={thing.rest} />
          <Evidence candidate={candidate} cues={cues} durationS={durationS} />
          <Keep key={candidate.key} file={file} thing={thing} candidate={candidate} found={found} likely={likely} />
        </>
      ) : (
        <p>No field of any message follows these cues.</p>
      )}
      {next && (
        <div className="mt-3">
          <Notice tone="watch" title={`Do next: ${NEXT[next.how](next.label)}`}>
            <p>Because {next.reason}.</p>
          </Notice>
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-x-6">
        {candidates.length > 1 && (
          <details>
            <summary className="min-h-11 cursor-pointer py-2 text-sm">
              {candidates.length === 2 ? "1 other field" : `${candidates.length - 1} other fields`}
            </summary>
            <ul>
              {candidates.map((c, i) => (
                <li key={c.key}>
                  <Button look="quiet" aria-pressed={i === at} onClick={() => setAt(i)}>
                    {placeWords(c)}: {percent(c.fits)}
                    {c.sure ? "" : ", may be chance"}
                    {i === at && " (shown)"}
                  </Button>
                </li>
              ))}
            </ul>
          </details>
        )}
        {excluded.length > 0 && (
          <details>
            <summary className="min-h-11 cursor-pointer py-2 text-sm">
              {excluded.length === 1 ? "1 field left out" : `${excluded.length} fields left out`}
            </summary>
            <ul className="text-sm">
              {excluded.slice(0, 20).map((e) => (
                <li key={`${e.id}-${e.bit}-${e.reason}`}>
                  <span className="num">
                    {e.id}, byte {e.bit >> 3}, bit {e.bit & 7}
                  </span>
                  : {e.reason}
                </li>
              ))}
            </ul>
          </details>
        )}
      </div>
    </Section>
  );
}

const NEXT: Record<NonNullable<HuntShown["things"][number]["next"]>["how"], (label: string) => string> = {
  press: (label) => label,
  hold: (label) => `hold ${label} longer`,
  again: (label) => `${label} again`,
};

function Verdict({ first, kept }: { first: HuntCandidate | undefined; kept: FoundSignal | undefined }) {
  if (kept) return <Mark tone="good">Kept as {kept.signal}</Mark>;
  if (!first) return <Mark tone="stop">Not found</Mark>;
  return first.sure ? <Mark tone="good">Found</Mark> : <Mark tone="watch">May be chance</Mark>;
}

/** Where a candidate lies, in words. */
function placeWords({ finding, known }: HuntCandidate): string {
  const id = idText(finding.id, finding.extended);
  const bits =
    finding.length === 1
      ? `bit ${finding.startBit & 7}`
      : finding.length <= 8 && finding.littleEndian
        ? `bits ${finding.startBit & 7} to ${(finding.startBit & 7) + finding.length - 1}`
        : `${finding.length} bits, ${finding.littleEndian ? "low byte first" : "high byte first"}`;
  const page = finding.page ? `, on page ${finding.page.value}` : "";
  return `${known ? `${known} ` : ""}${id}, byte ${finding.startBit >> 3}, ${bits}${page}`;
}

const KINDS: Record<HuntCandidate["kind"], string> = {
  state: "stands at a value while it is done",
  toggle: "changes over with each press",
  counter: "counts the presses",
  level: "follows as a number",
};

function Told({ candidate: c, rest }: { candidate: HuntCandidate; rest: string }) {
  const { finding } = c;
  const facts = [
    `fits ${percent(c.fits)}`,
    c.delayS === null || Number.isNaN(c.delayS) ? "" : delayWords(c.delayS),
    `${c.misses.length} missed`,
    `${c.falseAlarms.length} without a cue`,
    c.falseShare < 0.005 ? "none such by chance" : `${percent(c.falseShare)} of such by chance`,
  ].filter((f) => f !== "");
  return (
    <div className="mb-2">
      <p className="text-lg">
        <span className="num font-medium">{placeWords(c)}</span> <span className="text-quiet">{KINDS[c.kind]}</span>
      </p>
      <p className="num text-sm text-quiet">{facts.join(" · ")}</p>
      {finding.values.length > 0 && (
        <p className="mt-1 flex flex-wrap gap-x-4">
          {finding.values.map(([value, name]) => (
            <span key={value} className={name === rest ? "text-quiet" : ""}>
              <span className="num font-medium">{value}</span> {name}
            </span>
          ))}
        </p>
      )}
      {c.kind === "level" && (
        <p className="num mt-1">
          value × {finding.factor}
          {finding.offset !== 0 && ` ${finding.offset < 0 ? "−" : "+"} ${Math.abs(finding.offset)}`} {finding.unit}
          {finding.signed && ", with sign"}
        </p>
      )}
      {c.repeats.length > 0 && (
        <p className="text-sm text-quiet">
          Repeated by {c.repeats.map((r) => `${r.id} ${Math.round(1000 * r.byS)} ms later`).join(", ")}.
        </p>
      )}
    </div>
  );
}

function delayWords(delayS: number): string {
  const ms = Math.round(1000 * delayS);
  if (Math.abs(ms) < 100) return "with the cue";
  return `${Math.abs(ms)} ms ${ms < 0 ? "before" : "after"} the cue`;
}

/** Names a candidate and keeps it with the job. */
function Keep({
  file,
  thing,
  candidate: { finding, known },
  found,
  likely,
}: {
  file: string;
  thing: Thing;
  candidate: HuntCandidate;
  found: readonly FoundSignal[];
  likely: boolean;
}) {
  const named = found.find((f) => f.id === finding.id && f.extended === finding.extended)?.message;
  const [signal, setSignal] = useState(
    () => found.find((f) => f.thing === thing.name)?.signal ?? signalName(thing.name),
  );
  const message = named ?? known ?? `M${idText(finding.id, finding.extended)}`;
  const data = { ...finding, signal, message, file, thing: thing.name };
  const same = found.some(
    (f) => f.signal === signal && f.id === finding.id && f.startBit === finding.startBit && f.length === finding.length,
  );
  return (
    <div className="mt-2 flex flex-wrap items-end gap-3">
      <label className="block">
        <span className="block text-sm text-quiet">Name of the signal</span>
        <input
          type="text"
          value={signal}
          maxLength={32}
          onChange={(e) => setSignal(e.currentTarget.value.replaceAll(/\W/g, ""))}
          className="field w-56!"
        />
      </label>
      <EntryButton
        body={{ kind: "bus.signal", data }}
        disabled={same || signal === ""}
        look={likely && !same ? "next" : "plain"}
      >
        {same ? "Kept" : `Keep as ${signal || "..."}`}
      </EntryButton>
    </div>
  );
}

function percent(share: number): string {
  return `${(100 * share).toFixed(share > 0.995 || share < 0.1 ? 1 : 0)} %`;
}
