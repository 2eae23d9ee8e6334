import { ArrowRight, Check, Hourglass, TriangleAlert } from "lucide";
import type { SpeakerPlan } from "~/core/drawing/plan";
import { spanWords } from "~/core/model/labels";
import { sightWords } from "~/core/model/sight";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { Icon } from "../icon";
import { Mark, Notice, ResultMark } from "../marks";
import { Answers } from "./answers";
import { HoldTimer } from "./timers";

export type ShownTest = ReturnType<typeof proveView>["tests"][number];

const ROUND_SAYS: Readonly<Record<ShownTest["round"], string>> = {
  bench: "With the dash open",
  closed: "After closing: would any plug have come off?",
  yard: "On the closed yard. One drives, one looks; the driver operates nothing",
};

/** One test: how car and phone must stand, what to do, and large answers. A stand-in car can answer, too. */
export function TestFocus({
  test,
  alike,
  standIn,
  above,
  after,
}: {
  test: ShownTest;
  /** Others that can be answered with it. */
  alike: readonly ShownTest[];
  standIn: boolean;
  /** The car from above, where it is drawn. */
  above: SpeakerPlan | null;
  after: string | undefined;
}) {
  const failed = test.noted !== null && test.noted.value !== "pass";
  // Before something failed the answers come first.
  const normal = <CanBeNormal normal={test.normal} open={failed} />;
  return (
    <Focus
      kicker={ROUND_SAYS[test.round]}
      marks={
        <>
          <ResultMark result={test.noted?.value} />
          {test.law && <Mark tone="none">Required by law</Mark>}
          {test.failedBefore && <Mark tone="watch">Did not work before the work</Mark>}
        </>
      }
      title={
        <>
          {test.name} <span className="font-normal text-quiet">{test.label}</span>
        </>
      }
      after={after}
      actions={
        !test.waits && (
          <>
            <Answers key={test.key} test={test} alike={alike} standIn={standIn} above={above} />
            {!failed && normal}
          </>
        )
      }
    >
      {test.waits && <p className="text-quiet">It is tried again when the car is closed.</p>}
      <HowToTry test={test} />
      {(failed || test.waits) && normal}
      {test.noted && test.otherwise && (
        <Notice tone="watch" title="Two people answer differently">
          <p>
            {test.noted.by}: {sightWords(test.noted.sight)}. {test.otherwise.by}: {sightWords(test.otherwise.answer)}.
            Try it together; the last answer counts.
          </p>
        </Notice>
      )}
      {test.noted && (test.instead || test.noted.note) && (
        <p>
          <span className="inline-block font-medium first-letter:uppercase">{test.instead}</span>
          {test.instead && test.noted.note && ", "}
          {test.noted.note && `“${test.noted.note}”`} <span className="text-quiet">{test.noted.by}</span>
        </p>
      )}
    </Focus>
  );
}

/** How car and phone must stand for a test, and what to do. */
export function HowToTry({ test }: { test: ShownTest }) {
  return (
    <>
      <StateSteps steps={test.steps} />
      <p className="text-lg">{test.say}</p>
      {!test.waits && test.holds.map((h) => <HoldTimer key={h.say} {...h} />)}
      {test.caution && (
        <p className="flex items-start gap-2 text-watch">
          <Icon of={TriangleAlert} size={18} className="mt-1 shrink-0" />
          {test.caution}
        </p>
      )}
    </>
  );
}

/** What looks like a fault at this test and passes by itself. */
function CanBeNormal({ normal, open }: { normal: ShownTest["normal"]; open: boolean }) {
  if (normal.length === 0) return null;
  return (
    <details open={open} className="border-y border-rule">
      <summary className="flex min-h-11 cursor-pointer items-center gap-2 font-medium">
        <Icon of={Hourglass} size={17} className="shrink-0" />
        Not a fault yet: {normal.length === 1 ? "one thing" : `${normal.length} things`} can be met here
      </summary>
      <ul className="pb-3">
        {normal.map((n) => (
          <li key={n.id} className="py-1">
            <span className="font-medium">{n.seen}</span>{" "}
            {n.lastsS && <span className="font-mono">{spanWords(n.lastsS)}</span>}
            <span className="block text-quiet">
              {n.why} {n.remedy}
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** How car and phone must stand; what is to be changed for it stands out. */
function StateSteps({ steps }: { steps: ShownTest["steps"] }) {
  return (
    <ul aria-label="Set before" className="grid gap-x-6 sm:grid-cols-2">
      {steps.map((s) => (
        <li
          key={s.say}
          className={`flex min-h-8 items-center gap-2 border-b border-rule ${s.change ? "font-medium" : "text-quiet"}`}
        >
          {s.change ? (
            <Icon of={ArrowRight} size={17} className="shrink-0" />
          ) : (
            <Icon of={Check} size={17} className="shrink-0" />
          )}
          {s.say}
          <span className="sr-only">{s.change ? ", set it" : ", as it is"}</span>
        </li>
      ))}
    </ul>
  );
}
