import { format } from "date-fns";
import { Download, FileText, Lock, LockOpen } from "lucide";
import { useState } from "react";
import { Bench, type BenchItem } from "~/app/components/bench/bench";
import { Focus } from "~/app/components/bench/focus";
import { Button, buttonLook } from "~/app/components/controls";
import { DashView } from "~/app/components/drawings/dash-view";
import { EntryButton, useAppend, useJob } from "~/app/components/entry-form";
import { BeforeAfter } from "~/app/components/handover/before-after";
import { History } from "~/app/components/handover/history";
import { Icon } from "~/app/components/icon";
import { Mark, Notice } from "~/app/components/marks";
import { orKept } from "~/app/lib/kept-job";
import { jobOf, knowWishes } from "~/app/server/jobs.server";
import { countWords } from "~/core/model/labels";
import { handoverView } from "~/core/views/handover";
import type { Route } from "./+types/handover";

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const { job } = await source.load();
  await knowWishes(source.account, job);
  return handoverView(job, source.now);
}

export function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  return orKept(params.job, serverLoader, ({ job, now, views }) => views.handoverView(job, now));
}

type View = Route.ComponentProps["loaderData"];

export default function Handover({ loaderData: view }: Route.ComponentProps) {
  const { next } = useJob();
  return (
    <Bench
      label="Hand over"
      items={itemsOf(view)}
      next={next.stage === "handover" ? next.at : undefined}
      above={
        view.closed && (
          <div className="mb-4 pr-14">
            <Notice
              tone={view.closed.as === "ready" ? "good" : "stop"}
              title={`${view.closed.as === "ready" ? "Closed" : "Closed as unfinished"} on ${format(new Date(view.closed.at), "d MMM yyyy, HH:mm")} by ${view.closed.by}`}
            >
              <p>
                {view.closed.as === "ready"
                  ? "Nothing can be changed any more. Reopening is written to the log."
                  : "The car is not ready: what is open stands below and on its paper. Reopen the job to go on."}
              </p>
            </Notice>
          </div>
        )
      }
      car={view.dash && <DashView dash={view.dash} at={view.touched} title="What was taken off and put back" />}
      empty={null}
    >
      {(item) => <InHand id={item.id} view={view} />}
    </Bench>
  );
}

function itemsOf({ report, closed }: View): BenchItem[] {
  const { openPoints, lines } = report;
  const blocks = openPoints.filter((p) => p.level === "blocks").length;
  const toSay = openPoints.filter((p) => p.level === "reason" && !p.accepted).length;
  const look = { group: "Look up", state: "look" as const, word: "" };
  return [
    {
      id: "before-after",
      title: "Before and after",
      aside: `${lines.length} functions tried`,
      group: "Show the customer",
      state: "look",
      word: "",
    },
    { id: "card", title: "Customer card", group: "Show the customer", state: "look", word: "" },
    {
      id: "points",
      title: "Open points",
      aside: openPoints.length === 0 ? "None" : String(openPoints.length),
      group: "Close",
      state: closed || blocks + toSay === 0 ? "done" : blocks > 0 ? "wrong" : "watch",
      word: closed || blocks + toSay === 0 ? "none open" : blocks > 0 ? "not ready" : "wants a reason",
    },
    {
      id: "close",
      title: closed ? "Reopen the job" : "Close the job",
      group: "Close",
      state: closed ? "done" : "open",
      word: closed ? (closed.as === "ready" ? "closed" : "unfinished") : "to do",
    },
    { ...look, id: "papers", title: "Certificate and export" },
    { ...look, id: "log", title: "Log" },
  ];
}

function InHand({ id, view }: { id: string; view: View }) {
  switch (id) {
    case "before-after":
      return <BeforeAfter lines={view.report.lines} />;
    case "card":
      return <Card lines={view.card} dash={view.dash} keys={view.keys} />;
    case "points":
      return <Points points={view.report.openPoints} closed={view.closed !== null} />;
    case "papers":
      return <Papers closed={view.closed !== null} />;
    case "log":
      return <History entries={view.history} closed={view.closed !== null} />;
    default:
      return <Close points={view.report.openPoints} closed={view.closed !== null} />;
  }
}

function Card({ lines, dash, keys }: { lines: readonly string[]; dash: View["dash"]; keys: View["keys"] }) {
  return (
    <Focus
      kicker="Goes with the customer, on the certificate"
      title="Customer card"
      picture={dash && keys.length > 0 && <DashView dash={dash} at={keys} title="Where the key is" />}
    >
      <ol className="list-decimal space-y-1 pl-6 text-lg">
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ol>
    </Focus>
  );
}

type OpenPoints = View["report"]["openPoints"];

function Points({ points, closed }: { points: OpenPoints; closed: boolean }) {
  const { readOnly } = useJob();
  return (
    <Focus kicker="They go onto the certificate" title={points.length === 0 ? "No open points" : "Open points"}>
      <PointList points={points} closed={closed} />
      {!closed && <NewPoint disabled={readOnly} />}
    </Focus>
  );
}

/** What keeps the car from being ready, then what the lead may leave open, then what is noted. */
function PointList({ points, closed }: { points: OpenPoints; closed: boolean }) {
  const groups = [
    { title: "Not ready", of: points.filter((p) => p.level === "blocks") },
    { title: "May stay open when the lead says why", of: points.filter((p) => p.level === "reason") },
    { title: closed ? "" : "Noted for the customer", of: points.filter((p) => p.level === "told") },
  ].filter((g) => g.of.length > 0);
  return groups.map((g) => (
    <section key={g.title} className="mt-3">
      <h3 className="caption">{g.title}</h3>
      <ul>
        {g.of.map((p) => (
          <li key={p.id} className="border-b border-rule py-2">
            <Point point={p} closed={closed} />
          </li>
        ))}
      </ul>
    </section>
  ));
}

function Point({ point: p, closed }: { point: OpenPoints[number]; closed: boolean }) {
  const { role, readOnly } = useJob();
  const mark = p.level === "blocks" ? "Open" : p.accepted ? "May stay open" : p.entry ? "Noted" : "Open";
  return (
    <div className="flex flex-wrap items-center justify-between gap-2">
      <span className="min-w-0 flex-1 basis-72">
        <Mark tone={p.level === "blocks" ? "stop" : p.level === "told" || p.accepted ? "none" : "watch"}>{mark}</Mark>{" "}
        {p.text}
        {p.accepted && (
          <span className="block text-quiet">
            “{p.accepted.reason}” {p.accepted.by}
          </span>
        )}
      </span>
      {p.entry && !closed && (
        <EntryButton look="quiet" body={{ kind: "undo", data: { entry: p.entry } }} label={`Undo: ${p.text}`}>
          Undo
        </EntryButton>
      )}
      {p.level === "reason" && !p.accepted && !closed && role === "lead" && <Accept point={p} disabled={readOnly} />}
    </div>
  );
}

/** The lead says why the car may go with this open. */
function Accept({ point, disabled }: { point: OpenPoints[number]; disabled: boolean }) {
  const { append, busy } = useAppend();
  const [reason, setReason] = useState("");
  return (
    <form
      className="flex w-full gap-2 sm:w-auto"
      onSubmit={(e) => {
        e.preventDefault();
        append({ kind: "handover.accept", data: { point: point.id, reason: reason.trim() } });
      }}
    >
      <input
        className="field min-w-0 flex-1 sm:w-56"
        aria-label={`Why it may stay open: ${point.text}`}
        placeholder="Why it may stay open"
        value={reason}
        onChange={(e) => setReason(e.currentTarget.value)}
        maxLength={500}
        disabled={disabled}
      />
      <Button type="submit" disabled={disabled || busy || reason.trim().length < 3}>
        May stay
      </Button>
    </form>
  );
}

function Close({ points, closed }: { points: OpenPoints; closed: boolean }) {
  const { role } = useJob();
  if (closed)
    return (
      <Focus
        kicker="Written to the log with your name"
        title="Reopen the job"
        actions={
          <EntryButton body={{ kind: "handover.reopen", data: { reason: "Reopened from Hand over" } }}>
            <Icon of={LockOpen} size={18} /> Reopen
          </EntryButton>
        }
      />
    );
  const blocks = points.filter((p) => p.level === "blocks").length;
  const toSay = points.filter((p) => p.level === "reason" && !p.accepted).length;
  const ready = blocks + toSay === 0;
  return (
    <Focus
      kicker={
        ready
          ? "Everything is proven and back in place"
          : blocks > 0
            ? `The car is not ready: ${countWords(blocks, "thing")} must be put right`
            : `${countWords(toSay, "point")} open: ${role === "lead" ? "say why each may stay open, or do it" : "the lead says why each may stay open"}`
      }
      title={ready ? "Close the job" : "Not ready to close"}
      marks={!ready && <Mark tone={blocks > 0 ? "stop" : "watch"}>{blocks > 0 ? "Not ready" : "Open points"}</Mark>}
      actions={
        ready ? (
          <EntryButton look="next" body={{ kind: "handover.close", data: {} }} shortcut="Space">
            <Icon of={Lock} size={18} /> Close the job
          </EntryButton>
        ) : (
          <EntryButton body={{ kind: "handover.close", data: { as: "unfinished" } }}>
            <Icon of={Lock} size={18} /> The car leaves unfinished
          </EntryButton>
        )
      }
    >
      <PointList points={points} closed={closed} />
    </Focus>
  );
}

function Papers({ closed }: { closed: boolean }) {
  const { job } = useJob();
  return (
    <Focus
      kicker={closed ? "As the job was closed" : "As the job stands now"}
      title="Certificate and export"
      actions={
        <>
          <a
            className={buttonLook(closed ? "next" : "plain")}
            href={`/jobs/${job.id}/certificate.pdf`}
            target="_blank"
            rel="noreferrer"
          >
            <Icon of={FileText} size={18} /> Certificate (PDF)
          </a>
          <a className={buttonLook("plain")} href={`/jobs/${job.id}/export.json`} download>
            <Icon of={Download} size={18} /> Export the job (JSON)
          </a>
          <a className={buttonLook("plain")} href={`/jobs/${job.id}/export.zip`} download>
            <Icon of={Download} size={18} /> With photos and logs (zip)
          </a>
        </>
      }
    />
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
