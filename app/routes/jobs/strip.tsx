import { Link } from "react-router";
import { Bench, type BenchItem } from "~/app/components/bench/bench";
import { Focus } from "~/app/components/bench/focus";
import { buttonLook } from "~/app/components/controls";
import { DashView } from "~/app/components/drawings/dash-view";
import { NoDrawing } from "~/app/components/drawings/no-drawing";
import { EntryButton, useAppend, useJob } from "~/app/components/entry-form";
import { Gate } from "~/app/components/strip/gate";
import { LeftOver } from "~/app/components/strip/left-over";
import { OpenPlugs } from "~/app/components/strip/open-plugs";
import { Prepare, range, Unreached } from "~/app/components/strip/prepare";
import { DoneFocus, StepFocus } from "~/app/components/strip/step-focus";
import { SmallParts, Trays } from "~/app/components/strip/trays";
import { orKept } from "~/app/lib/kept-job";
import { later } from "~/app/lib/later";
import { jobOf } from "~/app/server/jobs.server";
import { measuredMinutes } from "~/app/server/strip.server";
import { lowerFirst } from "~/core/model/labels";
import { backKey } from "~/core/strip/back-key";
import { GATE_WORDS } from "~/core/strip/gate";
import { stripSurface } from "~/core/views/strip";
import type { Route } from "./+types/strip";

const OwnSteps = later(async () => (await import("~/app/components/strip/own-steps")).OwnSteps);

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const { job } = await source.load();
  return stripSurface(job, await measuredMinutes(source.account, job), source.now);
}

/** On the device with the minutes that the shop had measured when the job was kept. */
export function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  return orKept(params.job, serverLoader, ({ kept, job, now, views }) => views.stripSurface(job, kept.measured, now));
}

export default function Strip({ loaderData: d }: Route.ComponentProps) {
  const { job, next } = useJob();
  return (
    <Bench
      label="Removal and refit, in order"
      items={itemsOf(d)}
      next={next.stage === "strip" ? next.at : undefined}
      above={<Unreached goals={d.unreached} />}
      handsPage={`/jobs/${job.id}/hands`}
      car={(item) => (
        <>
          {d.dash ? <DashView dash={d.dash} off={d.panelsOff} now={panelOf(d, item.id)} /> : <NoDrawing />}
          <OpenPlugs plugs={d.plugs} />
          <Trays trays={d.trays} screwsOut={d.screwsOut} job={job.id} />
          <SmallParts parts={d.small} />
        </>
      )}
      empty={<p>Nothing has to come off. Once a kit is chosen, its plugs and places are reached.</p>}
    >
      {(item, after) => <InHand id={item.id} d={d} after={after?.title} />}
    </Bench>
  );
}

type Data = Route.ComponentProps["loaderData"];

/** The panel that the thing in hand is about. */
function panelOf(d: Data, id: string): string | null {
  return d.panels[id] ?? null;
}

const WAY_IN = "Removal";
const WAY_LATER = "Removal, once the kit was tried";
const WAY_BACK = "Refit, hooks first";

function itemsOf(d: Data): BenchItem[] {
  const goesBack = d.left.length === 0;
  const atGate = d.later.length > 0 ? WAY_LATER : WAY_BACK;
  const back = d.back.map((row): BenchItem => {
    const locked = !goesBack || (row.task.behindGate && d.gate.gate === "open");
    return {
      id: backKey(row.task.id),
      title: row.task.title,
      group: row.task.behindGate ? WAY_BACK : atGate,
      state: locked ? "later" : "open",
      word: locked ? "later" : "to do",
    };
  });
  const gate: BenchItem = {
    id: "gate",
    title: "Bench test",
    aside: `${d.gate.bench.passed} of ${d.gate.bench.tests} tests passed`,
    group: atGate,
    state: d.gate.gate === "open" ? "later" : "done",
    word: lowerFirst(GATE_WORDS[d.gate.gate]),
  };
  const behind = Math.max(
    0,
    d.back.findIndex((b) => b.task.behindGate),
  );
  const later = d.later.map(
    ({ task }): BenchItem => ({
      id: task.id,
      title: task.title,
      ...(task.tool ? { aside: task.tool } : {}),
      group: WAY_LATER,
      state: "later",
      word: "later",
    }),
  );
  return [
    ...d.done.map((t) => ({
      id: t.id,
      title: t.title,
      aside: t.by,
      group: WAY_IN,
      state: "done" as const,
      word: t.back ? "back in place" : "done",
    })),
    ...d.left.map(({ task }) => ({
      id: task.id,
      title: task.title,
      ...(task.tool ? { aside: task.tool } : {}),
      group: WAY_IN,
      state: "open" as const,
      word: "to do",
    })),
    ...d.skipped.map((s) => ({
      id: s.id,
      title: s.title,
      aside: `Left out: ${s.reason}`,
      group: WAY_IN,
      state: "done" as const,
      word: "left out",
    })),
    ...(back.length + later.length > 0 ? [...back.slice(0, behind), gate, ...later, ...back.slice(behind)] : []),
    ...lookUp(d),
  ];
}

function lookUp(d: Data): BenchItem[] {
  const look = { group: "Look up", state: "look" as const, word: "" };
  return [
    ...(d.tools.length > 0
      ? [{ ...look, id: "cart", title: "For the cart", aside: `${range(d.time.one)} alone` }]
      : []),
    { ...look, id: "own", title: "Not in the plan", aside: "A step of your own, a broken part" },
    ...(d.out.length > 0 ? [{ ...look, id: "left-over", title: "Found one left over?" }] : []),
    ...(d.done.some((t) => !t.prepStep) ? [{ ...look, id: "learned", title: "What the plan can learn" }] : []),
  ];
}

function InHand({ id, d, after }: { id: string; d: Data; after: string | undefined }) {
  const { readOnly, job } = useJob();
  const { append } = useAppend();
  const goesBack = d.left.length === 0;
  const wait = d.later.find((r) => r.task.id === id);
  if (wait)
    return <StepFocus key={id} {...wait} direction="in" notes={d.notes} locked="After the bench test" after={after} />;
  const row = d.left.find((r) => r.task.id === id);
  if (row) return <StepFocus key={id} {...row} direction="in" notes={d.notes} locked={null} after={after} />;
  const back = d.back.find((r) => backKey(r.task.id) === id);
  if (back)
    return (
      <StepFocus
        key={id}
        {...back}
        direction={back.task.prepStep ? "in" : "back"}
        notes={d.notes}
        locked={
          !goesBack
            ? "When everything is reached"
            : back.task.behindGate && d.gate.gate === "open"
              ? "After the bench test"
              : null
        }
        after={after}
      />
    );
  const done = d.done.find((t) => t.id === id);
  if (done) return <DoneFocus done={done} notes={d.notes} />;
  const skipped = d.skipped.find((s) => s.id === id);
  if (skipped) return <SkippedFocus step={skipped} />;
  if (id === "gate") return <Gate {...d.gate} />;
  if (id === "cart") return <Prepare tools={d.tools} covers={d.covers} time={d.time} />;
  if (id === "own") return <OwnSteps others={d.others} maintainer={d.maintainer} send={append} disabled={readOnly} />;
  if (id === "learned")
    return (
      <Focus kicker="After the job" title="What the plan can learn">
        <p>Times and differences of this job can go into the plan of the car, so that the next one has them.</p>
        <Link to={`/jobs/${job.id}/learned`} className={buttonLook()}>
          What the plan of the car can learn from this job
        </Link>
      </Focus>
    );
  return <LeftOver out={d.out} />;
}

function SkippedFocus({ step }: { step: Data["skipped"][number] }) {
  return (
    <Focus
      kicker="Left out"
      title={step.title}
      actions={
        step.entry && (
          <EntryButton body={{ kind: "undo", data: { entry: step.entry } }} shortcut="u">
            Take it in again
          </EntryButton>
        )
      }
    >
      <p>{step.reason}</p>
    </Focus>
  );
}
