import { Section } from "~/app/components/controls";
import { Mark } from "~/app/components/marks";
import { CodesAfter } from "~/app/components/prove/codes-after";
import { Diagnosis } from "~/app/components/prove/diagnosis";
import { TestRow } from "~/app/components/prove/test-row";
import { jobOf, standIn } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { proveView } from "~/core/views/prove";
import type { Route } from "./+types/prove";

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const source = jobOf(context);
  const { row, job } = await source.load();
  return { ...proveView(job, source.now), standIn: (await standIn(account, row)) !== undefined };
}

export default function Prove({ loaderData }: Route.ComponentProps) {
  const { tests, failing, repairs } = loaderData;
  const passed = tests.filter((t) => t.noted?.value === "pass").length;
  const tried = tests.filter((t) => t.noted).length;
  const firstOpen = tests.find((t) => !t.noted)?.id;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-[minmax(0,1fr)_27rem]">
      <div className="order-2 xl:order-1">
        {loaderData.openLeads > 0 && (
          <p className="mb-3 text-watch">
            {loaderData.openLeads} connections are still open in Connect; tests through them will fail.
          </p>
        )}
        <Section
          title="Tests"
          id="tests"
          aside={`${passed} of ${tests.length} passed, ${tests.length - tried} not tried`}
        >
          <p className="mb-2 max-w-prose text-quiet">In an order with few key, selector and phone changes.</p>
          <ol>
            {tests.map((t, i) => (
              <TestRow
                key={t.id}
                number={i + 1}
                test={t}
                next={t.id === firstOpen && failing === 0}
                standIn={loaderData.standIn}
              />
            ))}
          </ol>
        </Section>
      </div>
      <div className="order-1 xl:order-2">
        <Diagnosis
          {...loaderData}
          results={tests.flatMap((t) => (t.noted ? [{ id: t.id, answer: t.noted.value }] : []))}
        />
        <CodesAfter {...loaderData.codes} standIn={loaderData.standIn} />
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
