import { ArrowRight, CarFront, Check, Circle, X } from "lucide";
import { useFetcher, useParams } from "react-router";
import { entryId } from "~/core/job/entry-id";
import type { Command } from "~/core/log/entry";
import { SIGHT_IDS, SIGHTS, type Sight } from "~/core/prove/sequence-sights";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark } from "../marks";

export type ShownSequence = ReturnType<typeof proveView>["sequences"][number];
type Step = ShownSequence["steps"][number];

/** One step after the other: what to do, what must be seen; where it breaks is the answer. */
export function SequenceFocus({
  sequence,
  standIn,
  after,
}: {
  sequence: ShownSequence;
  standIn: boolean;
  after: string | undefined;
}) {
  const { outcome, steps, seen } = sequence;
  const at = outcome.kind === "open" ? steps.find((s) => s.id === outcome.at) : undefined;
  const broke = outcome.kind === "breaks" ? steps.find((s) => s.id === outcome.at) : undefined;
  const number = at ? steps.indexOf(at) + 1 : 0;
  return (
    <Focus
      kicker={`${sequence.name}${at ? `, step ${number} of ${steps.length}` : ""}`}
      marks={
        outcome.kind === "right" ? (
          <Mark tone="good">Every step as said</Mark>
        ) : (
          broke && <Mark tone="stop">Breaks here</Mark>
        )
      }
      title={
        at ? at.say : broke ? `${broke.say}: ${SIGHTS[seen[broke.id] ?? "dark"]}` : "It holds from beginning to end"
      }
      after={after}
      actions={
        at ? (
          <Answers key={at.id} sequence={sequence} step={at} standIn={standIn} />
        ) : (
          <>
            {broke?.test && (
              <FailTest test={broke.test} seen={seen[broke.id] ?? "dark"} name={sequence.name} say={broke.say} />
            )}
            <Again sequence={sequence} />
          </>
        )
      }
      picture={<Steps steps={steps} seen={seen} at={at?.id} />}
    >
      {sequence.caution && at && <p className="text-watch">{sequence.caution}</p>}
      {(at ?? broke) && (
        <p className="text-lg">
          You must {(at ?? broke)?.heard ? "hear" : "see"}: <span className="font-semibold">{(at ?? broke)?.must}</span>
        </p>
      )}
    </Focus>
  );
}

function Answers({ sequence, step, standIn }: { sequence: ShownSequence; step: Step; standIn: boolean }) {
  const offered = SIGHT_IDS.filter((s) => s === "asSaid" || (step.heard ? s === "silent" : s !== "silent"));
  return (
    <fieldset className="flex w-full flex-wrap gap-2">
      <legend className="sr-only">What is seen</legend>
      {standIn && <TryOnStandIn sequence={sequence.id} step={step.id} />}
      {offered.map((s, i) => (
        <EntryButton
          key={s}
          body={{ kind: "prove.step", data: { sequence: sequence.id, step: step.id, seen: s } }}
          look={s === "asSaid" && !standIn ? "next" : "plain"}
          shortcut={s === "asSaid" && !standIn ? "Space" : String(i + 1)}
        >
          {s === "asSaid" ? "As said" : SIGHTS[s].replace(/^./, (c) => c.toUpperCase())}
        </EntryButton>
      ))}
    </fieldset>
  );
}

/** The test that looks at the same thing fails with what was seen, so that the cause is looked for. */
function FailTest({ test, seen, name, say }: { test: string; seen: Sight; name: string; say: string }) {
  const answer = seen === "dark" || seen === "silent" || seen === "blue" ? "nothing" : "wrong";
  const body: Command = { kind: "prove.result", data: { test, answer, note: `${name}, ${say}: ${SIGHTS[seen]}` } };
  return (
    <EntryButton look="next" body={body} shortcut="Space">
      Find the cause of it
    </EntryButton>
  );
}

function Again({ sequence: { id, steps } }: { sequence: ShownSequence }) {
  const [first] = steps;
  return (
    first && (
      <EntryButton body={{ kind: "prove.step", data: { sequence: id, step: first.id, seen: "asSaid" } }}>
        Begin again: {first.must.toLowerCase()} is there
      </EntryButton>
    )
  );
}

function TryOnStandIn({ sequence, step }: { sequence: string; step: string }) {
  const fetcher = useFetcher();
  const params = useParams();
  const { seed, readOnly } = useJob();
  return (
    <fetcher.Form method="post" action={`/jobs/${params.job}/stand-in`} className="contents">
      <input type="hidden" name="entry" value={entryId(seed, `stand-in-${sequence}-${step}`)} />
      <input type="hidden" name="sequence" value={sequence} />
      <input type="hidden" name="step" value={step} />
      <Button
        type="submit"
        look="next"
        disabled={readOnly}
        aria-busy={fetcher.state !== "idle"}
        aria-keyshortcuts="Space"
      >
        <Icon of={CarFront} size={18} /> Try on the stand-in car
      </Button>
    </fetcher.Form>
  );
}

function Steps({
  steps,
  seen,
  at,
}: {
  steps: readonly Step[];
  seen: Readonly<Record<string, Sight>>;
  at: string | undefined;
}) {
  return (
    <ol className="max-w-xl border-t border-rule">
      {steps.map((s) => {
        const sight = seen[s.id];
        return (
          <li
            key={s.id}
            aria-current={s.id === at ? "step" : undefined}
            className="flex min-h-11 items-center gap-3 border-b border-rule py-1.5"
          >
            {s.id === at ? (
              <Icon of={ArrowRight} size={18} className="shrink-0" label="now" />
            ) : sight === "asSaid" ? (
              <Icon of={Check} size={18} className="shrink-0 text-good" label="as said" />
            ) : sight ? (
              <Icon of={X} size={18} className="shrink-0 text-stop" label={SIGHTS[sight]} />
            ) : (
              <Icon of={Circle} size={12} className="mx-[3px] shrink-0 text-quiet" label="not yet" />
            )}
            <span className={s.id === at ? "font-semibold" : ""}>
              {s.say} <span className="block text-sm text-quiet">{s.must}</span>
            </span>
          </li>
        );
      })}
    </ol>
  );
}
