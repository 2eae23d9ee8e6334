import { Hand, RotateCcw } from "lucide-react";
import { Link, useParams } from "react-router";
import { buttonLook, Section } from "~/app/components/controls";
import { EntryButton, useAppend, useJob } from "~/app/components/entry-form";
import { Mark } from "~/app/components/marks";
import { Gate } from "~/app/components/strip/gate";
import { LeftOver } from "~/app/components/strip/left-over";
import { OpenPlugs } from "~/app/components/strip/open-plugs";
import { OwnSteps } from "~/app/components/strip/own-steps";
import { Prepare, range, Unreached } from "~/app/components/strip/prepare";
import { StepNotes } from "~/app/components/strip/step-notes";
import { StepRow } from "~/app/components/strip/step-row";
import { SmallParts, Trays } from "~/app/components/strip/trays";
import { jobOf } from "~/app/server/jobs.server";
import { stripInputOf } from "~/app/server/strip.server";
import { functionsLostWithout } from "~/core/connect/rules/factory";
import { sameEnds } from "~/core/model/compose";
import { describePort } from "~/core/model/labels";
import { smallParts, trays, whereItBelongs } from "~/core/strip/fasteners";
import { stripView, taskHazards } from "~/core/strip/view";
import type { Route } from "./+types/strip";

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const { now } = source;
  const job = await source.load();
  const { plan, state } = job;
  const input = await stripInputOf(source.account, job);
  const view = stripView(input, state.strip, now);
  const chosen = new Set(view.route.steps.map((s) => s.id));
  return {
    left: view.left.map((task) => ({ task, hazards: taskHazards(input, view, task, now) })),
    back: view.back.map((task) => ({ task, hazards: taskHazards(input, view, task, now) })),
    done: view.done,
    skipped: view.skipped.map((s) => ({ ...s, entry: undoOf(s.id) })),
    next: view.next?.task.id ?? null,
    gate: { gate: view.gate, bench: input.bench, reason: state.strip.gate?.reason ?? null },
    tools: view.tools,
    covers: view.covers,
    maintainer: view.car.maintainer,
    time: view.time,
    unreached: view.route.unreached,
    others: view.route.plan.steps.filter((s) => !chosen.has(s.id)).map((s) => ({ id: s.id, title: s.title })),
    trays: trays(view.car, state.strip),
    notes: state.strip.notes,
    small: smallParts(view.route.plan, state.strip),
    plan: view.route.plan,
    journal: { stepEvents: state.strip.stepEvents, counts: [...state.strip.counts] },
    plugs: view.car.plugsOpen.map((p) => {
      const link = plan.stock.links.find((l) => sameEnds(l, p));
      return {
        port: p.b,
        name: describePort(plan.stock, p.b),
        where: view.route.plan.steps.find((s) => s.id === p.step)?.panel ?? "",
        lock: p.lock,
        airbag: p.airbag ?? false,
        lost: link ? functionsLostWithout(plan.stock, link.id) : [],
        link: plan.connections.find((c) => c.kind === "factory" && sameEnds(c, p))?.link ?? null,
      };
    }),
  };

  function undoOf(step: string): string | null {
    return job.entries.findLast((e) => e.kind === "strip.skip" && e.data.step === step)?.id ?? null;
  }
}

export default function Strip({ loaderData: d }: Route.ComponentProps) {
  const { job } = useParams();
  const { readOnly } = useJob();
  const { append } = useAppend();
  const doneSteps = d.done.filter((x) => !x.prepStep).length;
  const goesBack = d.left.length === 0;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-[minmax(0,1fr)_19rem]">
      <div>
        <Link to={`/jobs/${job}/hands`} className={`${buttonLook()} mb-4 w-full text-lg sm:w-auto`}>
          <Hand size={22} aria-hidden="true" /> Hands-busy mode, one step at a time
        </Link>
        <Unreached goals={d.unreached} />
        <Section
          title="The way in"
          id="way-in"
          aside={goesBack ? `${doneSteps} steps done` : `${d.left.length} to go, ${range(d.time.one)} alone`}
        >
          {d.done.length > 0 && <DoneList done={d.done} notes={d.notes} open={goesBack} />}
          {goesBack && d.done.length === 0 && (
            <p className="text-quiet">
              Nothing has to come off. Once a kit is chosen, its plugs and places are reached.
            </p>
          )}
          <ol>
            {d.left.map((row, i) => (
              <StepRow
                key={row.task.id}
                number={i + 1}
                {...row}
                next={row.task.id === d.next}
                notes={d.notes}
                direction="in"
              />
            ))}
          </ol>
          {d.skipped.map((s) => (
            <p key={s.id} className="flex flex-wrap items-center gap-x-3 border-b border-rule py-2">
              <Mark tone="none">Left out</Mark> {s.title}: {s.reason}
              {s.entry && (
                <EntryButton look="quiet" body={{ kind: "undo", data: { entry: s.entry } }}>
                  Take it in again
                </EntryButton>
              )}
            </p>
          ))}
          <OwnSteps others={d.others} maintainer={d.maintainer} send={append} disabled={readOnly} />
        </Section>
        <Section
          title="The way back"
          id="way-back"
          aside={
            d.back.length > 0 ? `${d.back.filter((b) => b.task.step).length} parts, hooks first` : "Nothing is off"
          }
        >
          <ol>
            {d.back.length > 0 && !d.back.some((b) => b.task.behindGate) && <Gate {...d.gate} />}
            {d.back.map((row, i) => [
              row.task.behindGate && !d.back[i - 1]?.task.behindGate && firstBehind(d.back) === i && (
                <Gate key="gate" {...d.gate} />
              ),
              <StepRow
                key={row.task.id}
                number={i + 1}
                {...row}
                next={row.task.id === d.next && goesBack}
                notes={d.notes}
                direction={row.task.prepStep ? "in" : "back"}
                locked={!goesBack || (row.task.behindGate && d.gate.gate === "open")}
              />,
            ])}
          </ol>
        </Section>
      </div>
      <div>
        <Prepare tools={d.tools} covers={d.covers} time={d.time} />
        <Trays trays={d.trays} job={job ?? ""} />
        <SmallParts parts={d.small} />
        <OpenPlugs plugs={d.plugs} />
        <LeftOver
          kinds={kindsOut(d)}
          search={(found) =>
            whereItBelongs(d.plan, { stepEvents: d.journal.stepEvents, counts: new Map(d.journal.counts) }, found)
          }
        />
        {doneSteps > 0 && (
          <p className="border-t border-rule pt-4">
            <Link
              to={`/jobs/${job}/learned`}
              className="inline-flex min-h-11 items-center underline underline-offset-4"
            >
              What the plan of the car can learn from this job
            </Link>
          </p>
        )}
      </div>
    </div>
  );
}

function firstBehind(back: { task: { behindGate: boolean } }[]): number {
  return back.findIndex((b) => b.task.behindGate);
}

type Data = Route.ComponentProps["loaderData"];

/** Kinds of fasteners that were out on this job. */
function kindsOut(d: Data): string[] {
  const ever = new Set(d.journal.stepEvents.map((x) => x.step));
  return [
    ...new Set(d.plan.steps.filter((s) => ever.has(s.id)).flatMap((s) => (s.fasteners ?? []).map((f) => f.kind))),
  ];
}

/** Done steps in the order in which they were done; what is off can go back at once, a wrong tick is undone. */
function DoneList({ done, notes, open }: { done: Data["done"]; notes: Data["notes"]; open: boolean }) {
  return (
    <details open={!open && done.length < 4} className="border-b border-rule">
      <summary className="min-h-11 cursor-pointer py-2">{done.length} done</summary>
      <ol>
        {done.map((t) => (
          <li key={t.id} className="flex flex-wrap items-center gap-x-3 py-1">
            <Mark tone={t.back ? "none" : "good"}>{t.back ? "Back" : "Done"}</Mark>
            <span className="min-w-0 flex-1">
              {t.title} <span className="text-sm text-quiet">{t.by}</span>
              <StepNotes notes={notes.filter((n) => n.step === t.id)} />
            </span>
            <EntryButton
              look="quiet"
              body={{ kind: "undo", data: { entry: t.entry } }}
              label={`Undo the tick: ${t.title}`}
            >
              <RotateCcw size={16} aria-hidden="true" /> Undo
            </EntryButton>
          </li>
        ))}
      </ol>
    </details>
  );
}
