import { Link, useParams } from "react-router";
import { Section } from "~/app/components/controls";
import { Mark, Notice, type Tone } from "~/app/components/marks";
import { loadJob } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { type LeadLine, lengthsOf } from "~/core/lengths/job";
import { conditionTest, resolveChoices } from "~/core/model/compose";
import type { Route } from "./+types/lengths";

export async function loader({ params, context }: Route.LoaderArgs) {
  const { plan, state } = await loadJob(person(context), params.job);
  const { car, kit } = plan.documents;
  const applies = conditionTest(car, plan.stock, resolveChoices(kit, state.choices ?? {}));
  return { ...lengthsOf(car, kit, plan.fitted, applies, state.feed !== null), box: kit.box, car: car.id };
}

const MARKS: Record<"fits" | "short" | "unknown" | "none", { tone: Tone; word: string }> = {
  fits: { tone: "good", word: "Fits" },
  short: { tone: "stop", word: "Too short" },
  unknown: { tone: "none", word: "Measure it" },
  none: { tone: "watch", word: "No way" },
};

export default function Lengths({ loaderData: { leads, material, box, car } }: Route.ComponentProps) {
  const { job } = useParams();
  const short = leads.filter((l) => l.check?.verdict === "short");
  return (
    <>
      <p className="mb-2">
        <Link to={`/jobs/${job}/connect`} className="inline-flex min-h-11 items-center underline underline-offset-4">
          Back to the connections
        </Link>
      </p>
      {short.length > 0 && (
        <Notice tone="stop" title={`${short.length === 1 ? "One lead is" : `${short.length} leads are`} too short`}>
          <p>Known before the dash is open: {short.map((l) => l.name).join(", ")}.</p>
        </Notice>
      )}
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-[minmax(0,1fr)_22rem]">
        <Section title="Leads on their way" id="leads" aside="The shortest way that keeps off the airbags">
          {leads.length === 0 && (
            <Notice tone="none" title="The kit does not say where its leads run">
              <p>Enter the two ends of each lead in the kit, and the ways in the car, in the library.</p>
            </Notice>
          )}
          <ul>
            {leads.map((l) => (
              <Lead key={`${l.lead.part}-${l.lead.to}`} line={l} />
            ))}
          </ul>
        </Section>
        <Section title="Small material" id="material">
          <ul>
            {material.map((m) => {
              const inBox = box.some((b) => b.toLowerCase().includes(m.what.toLowerCase().split(" ").at(-1) ?? ""));
              return (
                <li key={m.what} className="border-b border-rule py-2">
                  <p className="flex flex-wrap items-center gap-x-3">
                    <span className="num text-lg font-medium">
                      {m.unit === "m" ? `${m.amount.toFixed(1)} m` : m.amount}
                    </span>
                    <span className="min-w-0 flex-1">{m.what}</span>
                    <Mark tone={inBox ? "good" : "watch"}>{inBox ? "In the box" : "Not in the box"}</Mark>
                  </p>
                  <p className="text-sm text-quiet">{m.from}</p>
                </li>
              );
            })}
          </ul>
          <p className="mt-2 text-sm text-quiet">
            Ties every 150 to 200 mm: common practice. Ways and lengths stand in the{" "}
            <Link to={`/library/car/${car}`} className="underline">
              car's profile
            </Link>
            .
          </p>
        </Section>
      </div>
    </>
  );
}

function Lead({ line: { lead, name, check, problem } }: { line: LeadLine }) {
  const mark = MARKS[check?.verdict ?? "none"];
  return (
    <li className="border-b border-rule py-3">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span className="min-w-0 flex-1 font-medium">
          {name}{" "}
          <span className="font-normal text-quiet">
            {lead.from} to {lead.to}
          </span>
        </span>
        {check && (
          <span className="num">
            needs {check.neededM.toFixed(2)} m{check.hasM === null ? "" : `, has ${check.hasM.toFixed(2)} m`}
          </span>
        )}
        <Mark tone={mark.tone}>{mark.word}</Mark>
      </div>
      <p className={check?.verdict === "short" ? "text-stop" : "text-quiet"}>{check?.say ?? problem}</p>
      {check?.minds.map((m) => (
        <p key={m} className="text-sm text-watch">
          {m}
        </p>
      ))}
      {check && (
        <details>
          <summary className="min-h-11 cursor-pointer py-2 text-sm">How long it must be</summary>
          <ul className="text-sm">
            {check.lines.map((l) => (
              <li key={l.what} className="flex justify-between gap-4 border-t border-rule py-0.5">
                {l.what} <span className="num">{l.lengthM.toFixed(2)} m</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </li>
  );
}
