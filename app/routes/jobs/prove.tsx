import { useState } from "react";
import { Link } from "react-router";
import { Bench, type BenchItem } from "~/app/components/bench/bench";
import { Focus } from "~/app/components/bench/focus";
import { DashView } from "~/app/components/drawings/dash-view";
import { NoDrawing } from "~/app/components/drawings/no-drawing";
import { useJob } from "~/app/components/entry-form";
import { Mark } from "~/app/components/marks";
import { cameraItems, cameraOf, type Draft } from "~/app/components/prove/camera/items";
import { type ShownTest, TestFocus } from "~/app/components/prove/test-focus";
import { orKept } from "~/app/lib/kept-job";
import { later } from "~/app/lib/later";
import { jobOf } from "~/app/server/jobs.server";
import { isFailure } from "~/core/log/kinds/prove/result";
import { proveView } from "~/core/views/prove";
import type { Route } from "./+types/prove";

// Most of the time a test is in hand; what stands beside the tests comes in scripts of its own.
const Cannot = later(async () => (await import("~/app/components/prove/cannot")).Cannot);
const CodesAfter = later(async () => (await import("~/app/components/prove/codes-after")).CodesAfter);
const Diagnosis = later(async () => (await import("~/app/components/prove/diagnosis")).Diagnosis);
const HumFocus = later(async () => (await import("~/app/components/prove/hum")).HumFocus);
const Polarity = later(async () => (await import("~/app/components/prove/polarity")).Polarity);
const SequenceFocus = later(async () => (await import("~/app/components/prove/sequence-focus")).SequenceFocus);
const SpeakerWalk = later(async () => (await import("~/app/components/prove/speaker-walk")).SpeakerWalk);
const TouchPanel = later(async () => (await import("~/app/components/prove/touch-panel")).TouchPanel);
const Unnoticed = later(async () => (await import("~/app/components/prove/unnoticed")).Unnoticed);
const UsesFocus = later(async () => (await import("~/app/components/prove/uses-focus")).UsesFocus);
const CameraInHand = later(async () => (await import("~/app/components/prove/camera/in-hand")).CameraInHand);
const CameraGround = later(async () => (await import("~/app/components/prove/camera/in-hand")).CameraGround);

export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const { row, job } = await source.load();
  return { ...proveView(job, source.now), standIn: row.practice };
}

export function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  return orKept(params.job, serverLoader, ({ kept, job, now, views }) => ({
    ...views.proveView(job, now),
    standIn: kept.row.practice,
  }));
}

type View = Route.ComponentProps["loaderData"];

export default function Prove({ loaderData: view }: Route.ComponentProps) {
  const { next } = useJob();
  const [draft, setDraft] = useState<Draft>(null);
  return (
    <Bench
      label="Tests, in the order of trying"
      items={itemsOf(view)}
      next={next.stage === "prove" ? next.at : undefined}
      above={
        <>
          {view.openLeads > 0 && <OpenLeads count={view.openLeads} />}
          {view.withoutRule.length > 0 && <WithoutRule outputs={view.withoutRule} />}
        </>
      }
      car={(item) => <Seen view={view} id={item.id} draft={draft} />}
      empty={<p>Nothing is to be tried.</p>}
    >
      {(item, after) => <InHand id={item.id} view={view} draft={draft} onDraft={setDraft} after={after?.title} />}
    </Bench>
  );
}

/** Where a person looks or listens in the test in hand. */
function Seen({ view: { dash, tests, panelsOff, cameras }, id, draft }: { view: View; id: string; draft: Draft }) {
  const camera = cameraOf(id, cameras);
  if (camera) return <CameraGround id={id} camera={camera} draft={draft} />;
  const test = tests.find((t) => t.key === id);
  if (!dash) return <NoDrawing />;
  return <DashView dash={dash} off={panelsOff} at={test?.at ?? []} />;
}

const GROUPS = { bench: "With the dash open", closed: "After closing", yard: "On the closed yard" } as const;

/** Beside the tests: it shows which loudspeaker is where, and which contacts to move when one is not. */
function walkItem({ outcome }: NonNullable<View["walk"]>): BenchItem {
  const head = { id: "walk", title: "Balance and fader walk", aside: "which loudspeaker plays", group: "Measured" };
  if (outcome.kind === "right") return { ...head, state: "done", word: "right" };
  if (outcome.kind === "open") return { ...head, state: "later", word: "not walked yet" };
  return { ...head, state: "wrong", word: outcome.kind === "exchanged" ? "exchanged" : "not right" };
}

/** Which way each of them moves: bass is lost where one is turned round. */
function polarityItem({ polarity }: NonNullable<View["walk"]>): BenchItem {
  const head = { id: "polarity", title: "Polarity of the loudspeakers", group: "Measured" };
  if (polarity.kind === "right") return { ...head, state: "done", word: "all the same way" };
  if (polarity.kind === "reversed") return { ...head, state: "wrong", word: "turned round" };
  return { ...head, state: "later", word: polarity.kind === "open" ? "not heard yet" : "not clear" };
}

function humItem(hum: View["hum"]): BenchItem {
  const head = { id: "hum", title: "Hum", aside: "as it is and with a ground lead", group: "Measured" };
  return hum.gain !== null
    ? { ...head, state: "done", word: "measured" }
    : { ...head, state: "later", word: "not measured yet" };
}

const touchKey = (t: View["touch"][number]) => `touch ${t.test}`;

/** Measured where the touch arrives, beside the test that something arrives at all. */
function touchItem(t: View["touch"][number]): BenchItem {
  const head = { id: touchKey(t), title: t.name, aside: "corners and centre", group: "Measured" };
  if (t.outcome.kind === "right") return { ...head, state: "done", word: "right" };
  if (t.outcome.kind === "open") return { ...head, state: "later", word: "not measured yet" };
  return { ...head, state: "wrong", word: "not where it is touched" };
}

const USES = { keys: "Keys and knob", signs: "Clock, lighting, chimes" } as const;
type UseGroup = keyof typeof USES;
const USE_GROUPS = Object.keys(USES) as UseGroup[];

/** A tap each: every key in both pictures, and the signs that the bus is alive. */
function usesItems(uses: View["uses"]): BenchItem[] {
  return USE_GROUPS.flatMap((group): BenchItem[] => {
    const mine = uses.filter((u) => u.group === group);
    if (mine.length === 0) return [];
    const tried = mine.filter((u) => u.tried !== null).length;
    const head = { id: `uses ${group}`, title: USES[group], aside: `${tried} of ${mine.length}`, group: "Measured" };
    if (mine.some((u) => u.tried?.works === false)) return [{ ...head, state: "wrong", word: "not as it must be" }];
    return [
      tried === mine.length
        ? { ...head, state: "done", word: "right" }
        : { ...head, state: "later", word: "not tried yet" },
    ];
  });
}

const sequenceKey = (s: View["sequences"][number]) => `sequence ${s.id}`;

/** What shows only when one thing follows another. */
function sequenceItem(s: View["sequences"][number]): BenchItem {
  const head = { id: sequenceKey(s), title: s.name, group: "One after the other" };
  if (s.outcome.kind === "right") return { ...head, state: "done", word: "holds" };
  if (s.outcome.kind === "breaks") return { ...head, state: "wrong", word: "breaks" };
  const begun = Object.keys(s.seen).length;
  return { ...head, state: "later", word: begun > 0 ? `${begun} of ${s.steps.length}` : "not tried yet" };
}

function itemsOf({
  tests,
  codes,
  failing,
  strangeCodes,
  repairs,
  walk,
  touch,
  cameras,
  sequences,
  uses,
  hum,
  cannot,
}: View): BenchItem[] {
  const closed = tests.some((t) => t.round === "closed" && !t.waits);
  return [
    ...(failing > 0 || strangeCodes.length > 0
      ? [
          {
            id: "cause",
            title: "Find the cause",
            aside: failing > 0 ? (failing === 1 ? "1 test fails" : `${failing} tests fail`) : strangeCodes.join(", "),
            state: "wrong" as const,
            word: "to do",
          },
        ]
      : []),
    ...tests.map((t) => ({
      id: t.key,
      title: t.name,
      aside: t.label,
      group: GROUPS[t.round],
      // What nobody can try yet, and what is done with.
      folded: t.waits || (closed && t.round === "bench" && standing(t).state === "done"),
      ...standing(t),
    })),
    ...(walk ? [walkItem(walk), polarityItem(walk)] : []),
    ...touch.map(touchItem),
    ...(walk ? [humItem(hum)] : []),
    ...usesItems(uses),
    ...cameras.flatMap(cameraItems),
    ...sequences.map(sequenceItem),
    ...(tests.length > 0
      ? [
          {
            id: "unnoticed",
            title: "What no test shows",
            aside: "looked at before the panels go back",
            group: "Measured",
            state: "look" as const,
            word: "",
          },
        ]
      : []),
    {
      id: "codes",
      title: "Fault codes after the work",
      group: "At the end",
      state: codes.after ? ("done" as const) : codes.due ? ("open" as const) : ("later" as const),
      word: codes.after ? "read" : "not read yet",
    },
    ...(cannot.length > 0
      ? [
          {
            id: "cannot",
            title: "What is no fault here",
            aside: "when the customer reports it",
            group: "Look up",
            state: "look" as const,
            word: "",
          },
        ]
      : []),
    ...(repairs.length > 0
      ? [
          {
            id: "repairs",
            title: "Causes found",
            aside: String(repairs.length),
            group: "Look up",
            state: "look" as const,
            word: "",
          },
        ]
      : []),
  ];
}

function standing({ noted, waits }: ShownTest): Pick<BenchItem, "state" | "word"> {
  if (waits) return { state: "later", word: "when the car is closed" };
  if (!noted) return { state: "open", word: "not tried" };
  if (noted.value === "late") return { state: "watch", word: "too late" };
  if (isFailure(noted.value)) return { state: "wrong", word: "fails" };
  return { state: "done", word: noted.value === "pass" ? "works" : "not possible" };
}

function InHand({
  id,
  view,
  draft,
  onDraft,
  after,
}: {
  id: string;
  view: View;
  draft: Draft;
  onDraft(draft: Draft): void;
  after: string | undefined;
}) {
  const test = view.tests.find((t) => t.key === id);
  if (test)
    return (
      <TestFocus
        test={test}
        alike={view.tests.filter((t) => t.round === test.round && test.alike.includes(t.id))}
        standIn={view.standIn}
        above={view.above}
        after={after}
      />
    );
  if (id === "walk" && view.walk) return <SpeakerWalk walk={view.walk} standIn={view.standIn} after={after} />;
  if (id === "polarity" && view.walk) return <Polarity walk={view.walk} after={after} />;
  const uses = USE_GROUPS.find((g) => id === `uses ${g}`);
  if (uses)
    return <UsesFocus key={id} name={USES[uses]} uses={view.uses.filter((u) => u.group === uses)} after={after} />;
  if (id === "hum") return <HumFocus hum={view.hum} after={after} />;
  const touch = view.touch.find((t) => touchKey(t) === id);
  if (touch) return <TouchPanel key={id} touch={touch} after={after} />;
  const sequence = view.sequences.find((s) => sequenceKey(s) === id);
  if (sequence) return <SequenceFocus key={id} sequence={sequence} standIn={view.standIn} after={after} />;
  if (cameraOf(id, view.cameras))
    return (
      <CameraInHand
        id={id}
        cameras={view.cameras}
        steering={view.steering}
        draft={draft}
        onDraft={onDraft}
        standIn={view.standIn}
        after={after}
      />
    );
  if (id === "unnoticed") return <Unnoticed {...view} />;
  if (id === "cause") return <Diagnosis {...view} />;
  if (id === "cannot") return <Cannot cannot={view.cannot} />;
  if (id === "repairs") return <CausesFound repairs={view.repairs} />;
  return <CodesAfter {...view.codes} standIn={view.standIn} />;
}

function OpenLeads({ count }: { count: number }) {
  return (
    <p className="mb-2 pr-24 text-watch">
      {count === 1 ? "1 connection is" : `${count} connections are`} still open in Connect; tests through it will fail.
    </p>
  );
}

/** The module holds a translation that leaves something out: what hangs on it fails before any part is suspected. */
function WithoutRule({ outputs }: { outputs: readonly string[] }) {
  const { job } = useJob();
  return (
    <p className="mb-2 pr-24 text-watch">
      The translation in the module has no rule for {outputs.join(", ")}; tests through it will fail.{" "}
      <Link className="underline" to={`/jobs/${job.id}/bus/translation`}>
        To the translation
      </Link>
    </p>
  );
}

const PROOF = {
  passed: { tone: "good", words: "" },
  open: { tone: "watch", words: ", not tried again yet" },
  failing: { tone: "stop", words: ", fails again" },
} as const;

function CausesFound({ repairs }: Pick<View, "repairs">) {
  return (
    <Focus kicker="The last one first" title="Causes found">
      <ul className="space-y-2">
        {repairs.map((r) => (
          <li key={r.at}>
            <Mark tone={PROOF[r.proof].tone}>{`${r.normal ? "No fault" : "Repaired"}${PROOF[r.proof].words}`}</Mark>{" "}
            {r.title}
            <span className="block text-sm text-quiet">
              {r.remedy} {r.by}
            </span>
          </li>
        ))}
      </ul>
    </Focus>
  );
}
