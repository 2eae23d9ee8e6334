import { useState } from "react";
import { Bench, type BenchItem } from "~/app/components/bench/bench";
import { BusFiles } from "~/app/components/bus/bus-files";
import { CompareLogs } from "~/app/components/bus/compare-logs";
import { LogFocus, namesOf, ReadLog } from "~/app/components/bus/log-focus";
import { BusPages } from "~/app/components/bus/pages";
import { FromScope } from "~/app/components/bus/scope-reading";
import { drawable, firstSignals, Signals } from "~/app/components/bus/signals";
import { useJob } from "~/app/components/entry-form";
import { type UploadState, useBusUpload } from "~/app/lib/use-bus-upload";
import { type LogState, useLog } from "~/app/lib/use-log";
import { jobOf } from "~/app/server/jobs.server";
import type { JobState } from "~/core/log/entry";
import type { Route } from "./+types/bus";

export async function loader({ context }: Route.LoaderArgs) {
  const { row, job } = await jobOf(context).load();
  const { files, signals } = job.state;
  const dbc = files.filter((f) => f.what === "dbc").at(-1);
  return { files, description: described(row.id, dbc, signals) };
}

/** The newest description of the job together with the signals that are known beside it. */
function described(job: string, dbc: { file: string; name: string } | undefined, signals: JobState["signals"]) {
  const last = signals.at(-1);
  if (!last) return dbc ? { name: dbc.name, url: `/jobs/${job}/files/${dbc.file}` } : null;
  const name = dbc ? `${dbc.name} and the signals of this job` : "the signals of this job";
  // The number and the time make a new address of what has changed.
  return { name, url: `/jobs/${job}/bus-map.dbc?of=${signals.length}-${Date.parse(last.at)}-${dbc?.file ?? ""}` };
}

type Data = Route.ComponentProps["loaderData"];

export default function Bus({ loaderData: { files, description } }: Route.ComponentProps) {
  const { job } = useJob();
  const logs = files.filter((f) => f.what === "log");
  const [chosen, setChosen] = useState<string | null>(null);
  const log = logs.find((f) => f.file === chosen) ?? logs.at(-1);
  const { state, cancel, compare, loads, series, write } = useLog(job.id, log?.file ?? null, description?.url ?? null);
  const [picked, setPicked] = useState<readonly string[] | null>(null);
  // A log that was just uploaded is the one to be looked at.
  const upload = useBusUpload(job.id, (newLog) => newLog && setChosen(null));
  const others = logs.filter((l) => l !== log);
  return (
    <>
      <BusPages />
      <Bench
        label="The bus of this car"
        items={itemsOf(files, log?.name, state, upload.state)}
        next={undefined}
        car={null}
        empty={null}
      >
        {(item, _, select) => {
          if (item.id === "scope") return <FromScope />;
          if (item.id === "files" || !log)
            return (
              <BusFiles
                files={files}
                shown={log?.file ?? null}
                onShow={(file) => {
                  setChosen(file);
                  select("log");
                }}
                upload={upload}
              />
            );
          if (state.kind !== "ready") return <ReadLog log={log} state={state} cancel={cancel} />;
          const { summary } = state;
          if (item.id === "signals")
            return (
              <Signals
                summary={summary}
                description={description?.name}
                picked={picked ?? firstSignals(drawable(summary.rows))}
                onPick={setPicked}
                series={series}
              />
            );
          if (item.id === "compare")
            return <CompareLogs key={log.file} others={others} compare={compare} names={namesOf(summary.rows)} />;
          return <LogFocus key={log.file} log={log} summary={summary} loads={loads} write={write} />;
        }}
      </Bench>
    </>
  );
}

const READ_WORDS: Readonly<Record<LogState["kind"], string>> = {
  loading: "being read",
  ready: "",
  failed: "",
  cancelled: "stopped",
};

function itemsOf(files: Data["files"], log: string | undefined, state: LogState, upload: UploadState): BenchItem[] {
  const look = { state: "look" as const, word: "" };
  const logs = files.filter((f) => f.what === "log").length;
  const ready = state.kind === "ready" ? state.summary : null;
  const ofLog: BenchItem[] =
    log === undefined
      ? []
      : [
          {
            id: "log",
            title: "What is on the bus",
            aside: ready ? `${ready.rows.length} identifiers` : READ_WORDS[state.kind],
            group: log,
            ...(state.kind === "failed" ? { state: "wrong", word: "not read" } : look),
          },
          {
            id: "signals",
            title: "Signals over time",
            aside: ready ? `${drawable(ready.rows).length} messages named` : "",
            group: log,
            ...look,
          },
          ...(logs > 1 ? [{ id: "compare", title: "Against a log recorded before", group: log, ...look }] : []),
        ];
  return [
    ...ofLog,
    {
      id: "files",
      title: "Files",
      aside:
        upload.kind === "sending"
          ? `Sending ${upload.name}: ${Math.round(100 * upload.share)} %`
          : `Logs: ${logs}, descriptions: ${files.length - logs}`,
      group: "Recorded and measured",
      ...(logs === 0 ? { state: "open", word: "no log yet" } : look),
    },
    { id: "scope", title: "Bit rate from a scope", group: "Recorded and measured", ...look },
  ];
}
