import { useState } from "react";
import { Page } from "~/app/components/bench/page";
import { Recorder } from "~/app/components/bus/hunt/recorder";
import { type Cued, Results } from "~/app/components/bus/hunt/results";
import { KnownSignals } from "~/app/components/bus/known-signals";
import type { BusFile } from "~/app/components/bus/log-focus";
import { BusPages } from "~/app/components/bus/pages";
import { Button } from "~/app/components/controls";
import { useJob } from "~/app/components/entry-form";
import { Notice } from "~/app/components/marks";
import { useLog } from "~/app/lib/use-log";
import { busMapsFor, originWords } from "~/app/server/bus-map.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { carMessages, signalsOnLog } from "~/core/bus/car-messages";
import type { FoundSignal } from "~/core/bus/hunt/found";
import { huntThings } from "~/core/job/hunt-plan";
import { newId } from "~/db/ids";
import type { Route } from "./+types/bus-hunt";

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const { row, job } = await source.load();
  const { files, cues, signals, translation, busMap } = job.state;
  const maps = await busMapsFor(person(context), job);
  return {
    things: huntThings(job.plan.fitted),
    logs: files.filter((f) => f.what === "log").map(({ file, name }) => ({ file, name })),
    dbc: files.filter((f) => f.what === "dbc").at(-1)?.file ?? null,
    cues,
    signals: [...signals],
    origins: signals.map((s) => originWords(job, s)),
    messages: carMessages(job.plan.fitted, signals, translation?.rules ?? []),
    maps: maps.flatMap(({ id: slug, version, title, signals }) =>
      busMap?.slug === slug && busMap.version === version ? [] : [{ slug, version, title, signals: signals.length }],
    ),
    draft: newId(),
    standIn: row.practice,
  };
}

export default function BusHunt({ loaderData: view }: Route.ComponentProps) {
  const cued = view.logs.filter((l) => view.cues[l.file]);
  const [chosen, setChosen] = useState<string | null>(null);
  const [again, setAgain] = useState(false);
  const [note, setNote] = useState<{ file: string; text: string } | null>(null);
  const log = cued.find((l) => l.file === chosen) ?? cued.at(-1);
  const labels = Object.fromEntries(view.things.map((t) => [t.thing.id, t.acts.map((a) => a.label)]));
  const of = log && view.cues[log.file];
  const known = (
    <KnownSignals
      messages={view.messages}
      signals={view.signals}
      origins={view.origins}
      maps={view.maps}
      draft={view.draft}
    />
  );
  // Where nothing is known yet and no map of the library is at hand, what is to be done comes first; and it stays there
  // while findings are kept.
  const [knownFirst] = useState(view.maps.length > 0 || view.signals.length > 0);
  return (
    <>
      <BusPages />
      <Page>
        {knownFirst && known}
        {(!log || again) && (
          <Recorder
            things={view.things}
            standIn={view.standIn}
            next={view.maps.length === 0 || view.signals.length > 0}
            logs={view.logs.filter((l) => !view.cues[l.file])}
            onStored={(file, text) => {
              setNote(text === null ? null : { file, text });
              setAgain(false);
              setChosen(file);
            }}
          />
        )}
        {log && of && !again && (
          <>
            <div className="mb-2 flex flex-wrap items-end justify-between gap-3">
              <label className="block">
                <span className="block text-sm text-quiet">Recording</span>
                <select className="field w-auto!" value={log.file} onChange={(e) => setChosen(e.currentTarget.value)}>
                  {cued.map((l) => (
                    <option key={l.file} value={l.file}>
                      {l.name}
                    </option>
                  ))}
                </select>
              </label>
              <Button onClick={() => setAgain(true)}>Record again</Button>
            </div>
            {note?.file === log.file && (
              <div className="mb-4">
                <Notice tone="watch" title={note.text} />
              </div>
            )}
            <Hunt key={log.file} log={log} dbc={view.dbc} cued={of} labels={labels} found={view.signals} />
          </>
        )}
        {!knownFirst && known}
      </Page>
    </>
  );
}

function Hunt({
  log,
  dbc,
  cued,
  labels,
  found,
}: {
  log: BusFile;
  dbc: string | null;
  cued: Cued;
  labels: Readonly<Record<string, readonly string[]>>;
  found: readonly FoundSignal[];
}) {
  const { job } = useJob();
  const { state, cancel, hunt } = useLog(job.id, log.file, dbc && `/jobs/${job.id}/files/${dbc}`);
  if (state.kind === "loading")
    return (
      <div className="flex flex-wrap items-center gap-3 py-4" aria-live="polite">
        <span>Reading {log.name} ...</span>
        <progress value={state.progress.share} max={1} className="w-60" aria-label="Reading the log" />
        <Button onClick={cancel}>Cancel</Button>
      </div>
    );
  if (state.kind === "cancelled") return <Notice tone="watch" title="Stopped. Load the page again to go on." />;
  if (state.kind === "failed") return <Notice tone="stop" title={state.message} />;
  return (
    <>
      <OnThisBus {...signalsOnLog(found, state.summary.rows)} />
      <Results file={log.file} cued={cued} labels={labels} found={found} hunt={hunt} cancel={cancel} />
    </>
  );
}

/** Whether the signals that are known go with this log: a log of another car is noticed before anything is built on it. */
function OnThisBus({ there, missing, otherLength }: ReturnType<typeof signalsOnLog>) {
  if (missing.length + otherLength.length === 0) return null;
  const all = there + missing.length + otherLength.length;
  return (
    <div className="mb-4">
      <Notice tone="watch" title={`${there} of ${all} known messages are on this bus`}>
        {missing.length > 0 && <p>Not there: {missing.join(", ")}.</p>}
        {otherLength.length > 0 && <p>Of another length: {otherLength.join(", ")}.</p>}
        <p>Is it the bus of this car, with the key on? Else what is known here does not count for it.</p>
      </Notice>
    </div>
  );
}
