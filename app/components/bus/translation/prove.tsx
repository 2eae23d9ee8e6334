import { useEffect, useState } from "react";
import { useFetcher } from "react-router";
import { answered } from "~/app/lib/stays";
import { useLog } from "~/app/lib/use-log";
import type { Appended } from "~/app/server/jobs.server";
import type { ReplayShown } from "~/app/workers/log/replay";
import type { Cue } from "~/core/bus/hunt/cues";
import type { FoundSignal } from "~/core/bus/hunt/found";
import type { OutputProof } from "~/core/bus/translation/proof";
import { OUTPUTS, type Rule } from "~/core/bus/translation/translation";
import { entryId } from "~/core/job/entry-id";
import { Button, ScrollX, Section } from "../../controls";
import { useJob } from "../../entry-form";
import { Mark, Notice } from "../../marks";
import type { BusFile } from "../log-focus";

/** A log on which a translation can be tried, and why not. */
export interface ProofLog extends BusFile {
  /** Signals were found in it. */
  used: boolean;
}

/** Replays the translation over a log that was not used for finding. */
export function Prove({
  logs,
  proof,
}: {
  logs: readonly ProofLog[];
  proof: { file: string; outputs: readonly OutputProof[] } | null;
}) {
  const { job, seed, readOnly } = useJob();
  const fetcher = useFetcher<Appended>();
  const free = logs.filter((l) => !l.used);
  const [file, setFile] = useState(free.at(-1)?.file ?? "");
  const chosen = free.some((l) => l.file === file) ? file : (free.at(-1)?.file ?? "");
  const answer = answered(fetcher.data);
  return (
    <Section
      title="Proof"
      id="proof"
      aside={
        proof && (
          <Mark tone={allPassed(proof.outputs) ? "good" : "stop"}>
            {allPassed(proof.outputs) ? "Proven" : "Not as it should"}
          </Mark>
        )
      }
    >
      {free.length === 0 ? (
        <p className="max-w-prose">
          What was found in a log always fits it. Record once more under “Find signals”; the translation is then proven
          on that.
        </p>
      ) : (
        <fetcher.Form method="post" action={`/jobs/${job.id}/proof`} className="flex flex-wrap items-end gap-3">
          <input type="hidden" name="entry" value={entryId(seed, `proof-${chosen}-${proof?.file}`)} />
          <label className="block">
            <span className="block text-sm text-quiet">On the recording</span>
            <select
              className="field w-auto!"
              name="file"
              value={chosen}
              onChange={(e) => setFile(e.currentTarget.value)}
            >
              {free.map((l) => (
                <option key={l.file} value={l.file}>
                  {l.name}
                </option>
              ))}
            </select>
          </label>
          <Button type="submit" look={proof ? "plain" : "next"} disabled={readOnly || fetcher.state !== "idle"}>
            {fetcher.state === "idle" ? "Prove it on this recording" : "Replaying ..."}
          </Button>
        </fetcher.Form>
      )}
      {answer && !answer.ok && (
        <div className="mt-3">
          <Notice tone="stop" title="Not proven" live>
            <p>{answer.message}</p>
          </Notice>
        </div>
      )}
      {proof && <Outcome outputs={proof.outputs} />}
    </Section>
  );
}

function allPassed(outputs: readonly OutputProof[]): boolean {
  const tried = outputs.filter((o) => o.cued > 0);
  return tried.length > 0 && tried.every((o) => o.passed);
}

function Outcome({ outputs }: { outputs: readonly OutputProof[] }) {
  return (
    <ScrollX label="What each output did" className="mt-4">
      <table className="w-full min-w-[44rem]">
        <thead>
          <tr className="border-b border-strong text-left text-sm">
            <th scope="col" className="py-2 font-medium">
              Output
            </th>
            <th scope="col" className="text-right font-medium">
              Followed
            </th>
            <th scope="col" className="text-right font-medium">
              Delay, ms
            </th>
            <th scope="col" className="text-right font-medium">
              Longest, ms
            </th>
            <th scope="col" className="text-right font-medium">
              Without a cue
            </th>
            <th scope="col" className="pl-6 font-medium">
              Result
            </th>
          </tr>
        </thead>
        <tbody>
          {outputs.map((o) => (
            <tr key={o.output} className="border-b border-rule">
              <td className="py-2">{OUTPUTS[o.output].name}</td>
              <td className="num text-right">{o.cued === 0 ? "–" : `${o.met} of ${o.cued}`}</td>
              <td className="num text-right">
                {o.worstError !== null
                  ? `± ${o.worstError.toFixed(1)}`
                  : o.delayS === null
                    ? "–"
                    : Math.round(1000 * o.delayS)}
              </td>
              <td className="num text-right">{o.worstDelayS === null ? "–" : Math.round(1000 * o.worstDelayS)}</td>
              <td className="num text-right">{o.falseAlarms.length}</td>
              <td className="pl-6">
                {o.cued === 0 && o.falseAlarms.length === 0 ? (
                  <Mark tone="none">Not tried in this recording</Mark>
                ) : o.passed ? (
                  <Mark tone="good">As it should</Mark>
                ) : (
                  <Mark tone="stop">
                    {o.misses[0] ? `Missed at ${o.misses[0].atS.toFixed(1)} s` : "On without a cue"}
                  </Mark>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </ScrollX>
  );
}

const WIDTH = 1000;

/** Outputs and cues of a recording on one time axis, by the rules as they stand on the page. */
export function ReplayLanes({
  log,
  rules,
  signals,
  cues,
}: {
  log: BusFile;
  rules: readonly Rule[];
  signals: readonly FoundSignal[];
  cues: readonly Cue[];
}) {
  const { job } = useJob();
  const { state, replay } = useLog(job.id, log.file, null);
  const [shown, setShown] = useState<ReplayShown | null>(null);
  const ready = state.kind === "ready";
  // biome-ignore lint/correctness/useExhaustiveDependencies: `replay` talks to the same worker
  useEffect(() => {
    if (!ready) return;
    let over = false;
    void replay(rules, signals, cues).then((r) => {
      if (!over) setShown(r);
    });
    return () => {
      over = true;
    };
  }, [ready, rules, signals, cues]);
  if (state.kind === "failed") return <Notice tone="stop" title={state.message} />;
  if (!shown) return <p className="py-3 text-quiet">Replaying {log.name} ...</p>;
  const x = (s: number) => (WIDTH * Math.max(0, s)) / Math.max(1, shown.durationS);
  return (
    <ScrollX label="Outputs over time">
      <p className="mb-1 text-sm text-quiet">Grey: what was done in {log.name}. Black: what the module is told.</p>
      <div className="grid min-w-[40rem] grid-cols-[11rem_minmax(0,1fr)] gap-x-3">
        {shown.lanes.map((l) => (
          <div key={l.output} className="contents">
            <div className="flex items-center text-sm">{OUTPUTS[l.output].name}</div>
            <svg
              viewBox={`0 0 ${WIDTH} 30`}
              preserveAspectRatio="none"
              className="h-8 w-full border-b border-rule"
              role="img"
              aria-label={`${OUTPUTS[l.output].name}: ${l.cues.length} cues, on ${l.on.length} times`}
            >
              {l.cues.map((c) => (
                <rect
                  key={c.fromS}
                  x={x(c.fromS)}
                  y={3}
                  width={Math.max(2, x(c.toS) - x(c.fromS))}
                  height={24}
                  fill="var(--rule)"
                >
                  <title>{c.label}</title>
                </rect>
              ))}
              {l.on.map((s) => (
                <rect
                  key={s.fromS}
                  x={x(s.fromS)}
                  y={9}
                  width={Math.max(2, x(s.toS) - x(s.fromS))}
                  height={12}
                  fill="var(--ink)"
                />
              ))}
              {l.path !== "" && (
                <path d={l.path} fill="none" stroke="var(--ink)" strokeWidth={1.6} vectorEffect="non-scaling-stroke" />
              )}
            </svg>
          </div>
        ))}
      </div>
    </ScrollX>
  );
}
