import { Section } from "~/app/components/controls";
import { Mark } from "~/app/components/marks";
import { CodesAfter } from "~/app/components/prove/codes-after";
import { Diagnosis } from "~/app/components/prove/diagnosis";
import { TestRow } from "~/app/components/prove/test-row";
import { jobOf, standIn } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Round as RoundId } from "~/core/prove/rounds";
import { proveView } from "~/core/views/prove";
import type { Route } from "./+types/prove";

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const source = jobOf(context);
  const { row, job } = await source.load();
  return { ...proveView(job, source.now), standIn: (await standIn(account, row)) !== undefined };
}

export default function Prove({ loaderData }: Route.ComponentProps) {
  const { tests, repairs, next } = loaderData;
  // First when it is the next thing to do, else behind the tests.
  const codes = <CodesAfter {...loaderData.codes} standIn={loaderData.standIn} />;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-[minmax(0,1fr)_27rem]">
      <div className="order-2 xl:order-1">
        {loaderData.openLeads > 0 && (
          <p className="mb-3 text-watch">
            {loaderData.openLeads} connections are still open in Connect; tests through them will fail.
          </p>
        )}
        {loaderData.codes.due && codes}
        {ROUNDS.map((r) => {
          const mine = inRound(tests, r.id);
          return (
            mine.length > 0 && (
              <Round
                key={r.id}
                {...r}
                tests={mine}
                next={next?.round === r.id ? next.id : null}
                standIn={loaderData.standIn}
              />
            )
          );
        })}
        {!loaderData.codes.due && codes}
      </div>
      <div className="order-1 xl:order-2">
        <Diagnosis
          {...loaderData}
          results={tests.flatMap((t) => (t.noted ? [{ id: t.id, answer: t.noted.value }] : []))}
        />
        {repairs.length > 0 && (
          <Section title="Repairs" id="repairs" aside={String(repairs.length)}>
            <ul className="space-y-2">
              {repairs.map((r) => (
                <li key={r.at}>
                  <Mark tone="good">Repaired</Mark> {r.title}
                  <span className="block text-sm text-quiet">
                    {r.remedy} {r.by}
                  </span>
                </li>
              ))}
            </ul>
          </Section>
        )}
      </div>
    </div>
  );
}

const ROUNDS: { id: RoundId; title: string; say: string }[] = [
  { id: "bench", title: "With the dash open", say: "In an order with few key, selector and phone changes." },
  {
    id: "closed",
    title: "After closing",
    say: "Once more, because a plug may have come off while the panels went back. These few would show any of them.",
  },
  {
    id: "yard",
    title: "On the closed yard",
    say: "No public road. One drives, one looks; the driver does not operate anything.",
  },
];

/** What was tried with the dash open counts as tried after closing only when it was tried again. */
function inRound(tests: readonly Shown[], round: RoundId): Shown[] {
  if (round !== "closed") return tests.filter((t) => t.round === round);
  return tests.flatMap((t) => (t.again ? [t.again.done ? t : { ...t, noted: null, waits: !t.again.due }] : []));
}

type Shown = Route.ComponentProps["loaderData"]["tests"][number] & { waits?: boolean };

/** One round of tests; one that cannot be done yet says so instead of asking. */
function Round({
  id,
  title,
  say,
  tests,
  next,
  standIn,
}: {
  id: RoundId;
  title: string;
  say: string;
  tests: Shown[];
  next: string | null;
  standIn: boolean;
}) {
  const passed = tests.filter((t) => t.noted?.value === "pass").length;
  const tried = tests.filter((t) => t.noted).length;
  const waits = tests.length > 0 && tests.every((t) => t.waits);
  const list = (
    <ol>
      {tests.map((t, i) => (
        <TestRow key={t.id} number={i + 1} test={t} next={t.id === next} standIn={standIn} />
      ))}
    </ol>
  );
  return (
    <Section
      title={title}
      id={id}
      aside={
        waits
          ? `${tests.length}, when the car is closed`
          : `${passed} of ${tests.length} passed, ${tests.length - tried} not tried`
      }
    >
      <p className="mb-2 max-w-prose text-quiet">{say}</p>
      {waits ? (
        <ul>
          {tests.map((t) => (
            <li key={t.id} className="border-b border-rule py-1.5">
              {t.name} <span className="text-quiet">{t.label}</span>
            </li>
          ))}
        </ul>
      ) : passed === tests.length ? (
        <details>
          <summary className="min-h-11 cursor-pointer py-2 font-medium">All passed. Look at them</summary>
          {list}
        </details>
      ) : (
        list
      )}
    </Section>
  );
}
