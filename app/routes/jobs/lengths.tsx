import { Download } from "lucide-react";
import { Link, useParams } from "react-router";
import { BackToConnections } from "~/app/components/connect/back-link";
import { Findings } from "~/app/components/connect/findings";
import { MaterialList } from "~/app/components/connect/material-list";
import { Places } from "~/app/components/connect/places";
import { buttonLook, Section } from "~/app/components/controls";
import { Mark, Notice, type Tone } from "~/app/components/marks";
import { database } from "~/app/server/db.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { LeadLine } from "~/core/lengths/job";
import { lengthsView } from "~/core/views/lengths";
import { stockOf } from "~/db/stock";
import type { Route } from "./+types/lengths";

export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const { job } = await jobOf(context).load();
  return { ...lengthsView(job), stock: await stockOf(database(), account.shopId) };
}

const MARKS: Record<"fits" | "short" | "unknown" | "none", { tone: Tone; word: string }> = {
  fits: { tone: "good", word: "Fits" },
  short: { tone: "stop", word: "Too short" },
  unknown: { tone: "none", word: "Measure it" },
  none: { tone: "watch", word: "No way" },
};

export default function Lengths({ loaderData }: Route.ComponentProps) {
  const { leads, material, box, stock, car, places, parts, findings } = loaderData;
  const { job } = useParams();
  const short = leads.filter((l) => l.check?.verdict === "short");
  return (
    <>
      <BackToConnections />
      {short.length > 0 && (
        <Notice tone="stop" title={`${short.length === 1 ? "One lead is" : `${short.length} leads are`} too short`}>
          <p>Known before the dash is open: {short.map((l) => l.name).join(", ")}.</p>
        </Notice>
      )}
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-[minmax(0,1fr)_26rem]">
        <div>
          {parts.length > 0 && (
            <Section title="Where it lies" id="places" aside="Lengths and warnings follow">
              <Places parts={parts} places={places} />
              {findings.length > 0 && (
                <div className="mt-3">
                  <Findings findings={findings} />
                </div>
              )}
            </Section>
          )}
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
            {leads.length > 0 && (
              <a href={`/jobs/${job}/lengths.csv`} className={buttonLook("quiet")}>
                <Download size={18} aria-hidden="true" /> Lengths and material as CSV
              </a>
            )}
          </Section>
        </div>
        <Section title="Small material" id="material">
          <MaterialList material={material} box={box} stock={stock} />
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
        <span className="min-w-0 flex-1 basis-52 font-medium">
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
