import { Section } from "~/app/components/controls";
import { StepRow } from "~/app/components/strip/step-row";
import { Trays } from "~/app/components/strip/trays";
import { loadJob } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { functionsLostWithout } from "~/core/connect/check";
import { jobCarState } from "~/core/job/next";
import { openNow } from "~/core/job/plan";
import { describePort } from "~/core/model/words";
import { carState, stepHazards, trays, wayBack } from "~/core/strip/state";
import type { Route } from "./+types/strip";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { state, plan } = await loadJob(person(context), params.job);
  const strip = plan.documents.car.stripPlan;
  const last = new Map<string, "in" | "back">();
  for (const d of state.deeds) last.set(d.step, d.direction);
  const off = new Set([...last].filter(([, d]) => d === "in").map(([step]) => step));
  const now = carState(strip, state.deeds);
  const open = openNow(plan, state).openLinks ?? {};
  const firstOpen = plan.steps.find((s) => !last.has(s.id))?.id;
  return {
    steps: plan.steps.map((s) => ({
      step: s,
      done: last.get(s.id) === "in",
      wasBack: last.get(s.id) === "back",
      next: s.id === firstOpen,
      hazards: last.get(s.id) === "in" ? [] : stepHazards(now, s),
      confirmed: state.confirmed.get(s.id) ?? [],
    })),
    back: wayBack(strip, off),
    minutesIn: plan.steps.reduce((n, s) => n + (last.has(s.id) ? 0 : s.minutes), 0),
    trays: trays(now),
    openPlugs: jobCarState(plan, state).openPlugs.map((port) => ({
      port,
      name: describePort(plan.stock, port),
      lost: lostWithout(port),
    })),
    kitPlugsLeft: plan.connections.filter((c) => c.kind === "kit" && c.link in open).length,
  };

  function lostWithout(port: string): string[] {
    const link = plan.stock.links.find((l) => l.b === port || l.a === port);
    return link ? functionsLostWithout(plan.stock, link.id) : [];
  }
}

export default function Strip({ loaderData }: Route.ComponentProps) {
  const { steps, back, minutesIn, openPlugs } = loaderData;
  const done = steps.filter((s) => s.done || s.wasBack).length;
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-[minmax(0,1fr)_19rem]">
      <div>
        <Section
          title="The way in"
          id="way-in"
          aside={`${done} of ${steps.length} done, about ${Math.ceil(minutesIn)} min left`}
        >
          {done < steps.length ? (
            <WayIn steps={steps} />
          ) : (
            <details>
              <summary className="min-h-11 cursor-pointer py-2">Everything is reached. Show the steps</summary>
              <WayIn steps={steps} />
            </details>
          )}
        </Section>
        <Section
          title="The way back"
          id="way-back"
          aside={back.length > 0 ? `${back.length} steps, last out first in` : "Nothing is off"}
        >
          {loaderData.kitPlugsLeft > 0 && back.length > 0 && (
            <p className="mb-2 text-quiet">
              Not yet: {loaderData.kitPlugsLeft} connections of the kit are still open, and the bench test comes first.
            </p>
          )}
          <ol>
            {back.map((step, i) => (
              <StepRow
                key={step.id}
                number={i + 1}
                step={step}
                done={false}
                next={i === 0 && done === steps.length}
                hazards={[]}
                confirmed={[]}
                direction="back"
              />
            ))}
          </ol>
        </Section>
      </div>
      <div>
        <Trays trays={loaderData.trays} />
        <Section title="Open plugs" id="open-plugs" aside={String(openPlugs.length)}>
          {openPlugs.length === 0 ? (
            <p className="text-quiet">Every factory plug is home.</p>
          ) : (
            <ul className="space-y-3">
              {openPlugs.map((p) => (
                <li key={p.port}>
                  <p className="font-medium">{p.name}</p>
                  {p.lost.length > 0 && (
                    <p className="text-sm text-quiet">If forgotten: no {p.lost.join(", ").toLowerCase()}</p>
                  )}
                </li>
              ))}
            </ul>
          )}
        </Section>
      </div>
    </div>
  );
}

function WayIn({ steps }: { steps: Route.ComponentProps["loaderData"]["steps"] }) {
  return (
    <ol>
      {steps.map((s, i) => (
        <StepRow key={s.step.id} number={i + 1} {...s} direction="in" />
      ))}
    </ol>
  );
}
