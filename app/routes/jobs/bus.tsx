import { format } from "date-fns";
import { useState } from "react";
import { Page } from "~/app/components/bench/page";
import { BusUpload } from "~/app/components/bus/bus-upload";
import { LogView } from "~/app/components/bus/log-view";
import { BusPages } from "~/app/components/bus/pages";
import { FromScope } from "~/app/components/bus/scope-reading";
import { Button, Section } from "~/app/components/controls";
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

export default function Bus({ loaderData }: Route.ComponentProps) {
  const logs = loaderData.files.filter((f) => f.what === "log");
  const { description } = loaderData;
  const descriptions = loaderData.files.filter((f) => f.what === "dbc");
  const [chosen, setChosen] = useState<string | null>(null);
  const log = logs.find((f) => f.file === chosen) ?? logs.at(-1);
  return (
    <>
      <BusPages />
      <Page>
        <Section title="Files" id="files" aside={`Logs: ${logs.length}, descriptions: ${descriptions.length}`}>
          {loaderData.files.length === 0 && (
            <p className="mb-3 max-w-prose">
              No log yet. Record the bus while you press keys and move the selector, and upload the text log of frames
              with its bus description.
            </p>
          )}
          <ul>
            {loaderData.files.map((f) => (
              <li key={f.file} className="flex flex-wrap items-center justify-between gap-3 border-b border-rule py-2">
                <span>
                  <span className="num font-medium">{f.name}</span>{" "}
                  <span className="text-quiet">
                    {f.what === "dbc" ? "bus description" : "text log of frames"}, {f.by},{" "}
                    {format(new Date(f.at), "d MMM HH:mm")}
                  </span>
                </span>
                {f.what === "log" && (
                  <Button
                    onClick={() => setChosen(f.file)}
                    aria-pressed={f.file === log?.file}
                    disabled={f.file === log?.file}
                  >
                    {f.file === log?.file ? "Shown below" : "Show"}
                  </Button>
                )}
              </li>
            ))}
          </ul>
          <BusUpload />
        </Section>
        {log && <LogView key={log.file} log={log} description={description} others={logs.filter((l) => l !== log)} />}
        <FromScope />
      </Page>
    </>
  );
}
