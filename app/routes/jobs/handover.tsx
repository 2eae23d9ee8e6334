import { format } from "date-fns";
import { Download, FileText, Lock, LockOpen } from "lucide-react";
import { useState } from "react";
import { Button, buttonLook, Section } from "~/app/components/controls";
import { EntryButton, useAppend, useJob } from "~/app/components/entry-form";
import { BeforeAfter } from "~/app/components/handover/before-after";
import { History } from "~/app/components/handover/history";
import { Mark, Notice } from "~/app/components/marks";
import { jobOf, knowWishes } from "~/app/server/jobs.server";
import { handoverView } from "~/core/views/handover";
import type { Route } from "./+types/handover";

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const { job } = await source.load();
  await knowWishes(source.account, job);
  return handoverView(job, source.now);
}

export default function Handover({ loaderData }: Route.ComponentProps) {
  const { report, closed, card } = loaderData;
  const { job, readOnly } = useJob();
  const { openPoints } = report;
  const ready = openPoints.every((p) => p.entry !== null);
  return (
    <>
      <div className="mb-5 flex flex-wrap gap-2">
        <a
          className={buttonLook(closed ? "next" : "plain")}
          href={`/jobs/${job.id}/certificate.pdf`}
          target="_blank"
          rel="noreferrer"
        >
          <FileText size={18} aria-hidden="true" /> Certificate (PDF)
        </a>
        <a className={buttonLook("plain")} href={`/jobs/${job.id}/export.json`} download>
          <Download size={18} aria-hidden="true" /> Export the job (JSON)
        </a>
      </div>
      {closed && (
        <Notice tone="good" title={`Closed on ${format(new Date(closed.at), "d MMM yyyy, HH:mm")} by ${closed.by}`}>
          <p>Nothing can be changed any more. Reopening is written to the log.</p>
        </Notice>
      )}
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-[minmax(0,1fr)_24rem]">
        <div>
          <BeforeAfter lines={report.lines} />
        </div>
        <div>
          <Section
            title="Open points"
            id="open-points"
            aside={openPoints.length === 0 ? "None" : String(openPoints.length)}
          >
            <ul className="space-y-2">
              {openPoints.map((p) => (
                <li key={p.entry ?? p.text} className="flex flex-wrap items-center justify-between gap-2">
                  <span>
                    <Mark tone={p.entry ? "none" : "watch"}>{p.entry ? "Noted" : "Open"}</Mark> {p.text}
                  </span>
                  {p.entry && !closed && (
                    <EntryButton
                      look="quiet"
                      body={{ kind: "undo", data: { entry: p.entry } }}
                      label={`Take back: ${p.text}`}
                    >
                      Take back
                    </EntryButton>
                  )}
                </li>
              ))}
            </ul>
            {!closed && <NewPoint disabled={readOnly} />}
          </Section>
          <Section title="Close the job" id="close">
            {closed ? (
              <EntryButton body={{ kind: "handover.reopen", data: { reason: "Reopened from Hand over" } }}>
                <LockOpen size={18} aria-hidden="true" /> Reopen
              </EntryButton>
            ) : (
              <>
                <p className="mb-3 text-quiet">
                  {ready
                    ? "Everything is proven and back in place."
                    : "Open points go onto the certificate. What the law asks for must work."}
                </p>
                <EntryButton look={ready ? "next" : "plain"} body={{ kind: "handover.close", data: {} }}>
                  <Lock size={18} aria-hidden="true" />{" "}
                  {ready
                    ? "Close the job"
                    : `Close with ${openPoints.length} open ${openPoints.length === 1 ? "point" : "points"}`}
                </EntryButton>
              </>
            )}
          </Section>
          <Section title="Customer card" id="card">
            <ol className="list-decimal space-y-1 pl-5">
              {card.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ol>
          </Section>
        </div>
      </div>
      <History entries={loaderData.history} closed={closed !== null} />
    </>
  );
}

function NewPoint({ disabled }: { disabled: boolean }) {
  const { append, busy } = useAppend();
  const [text, setText] = useState("");
  return (
    <form
      className="mt-4 flex gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (text.trim()) append({ kind: "handover.point", data: { text: text.trim() } });
        setText("");
      }}
    >
      <label className="flex-1">
        <span className="sr-only">New point</span>
        <input
          className="field"
          value={text}
          onChange={(e) => setText(e.currentTarget.value)}
          placeholder="Something the customer must know"
          maxLength={500}
          disabled={disabled}
        />
      </label>
      <Button type="submit" disabled={disabled || busy || !text.trim()}>
        Note
      </Button>
    </form>
  );
}
