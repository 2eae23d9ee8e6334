import { Download } from "lucide";
import { Link, useParams } from "react-router";
import { Bench, type BenchItem } from "~/app/components/bench/bench";
import { Focus } from "~/app/components/bench/focus";
import { Findings } from "~/app/components/connect/findings";
import { MaterialList } from "~/app/components/connect/material-list";
import { ConnectPages } from "~/app/components/connect/pages";
import { buttonLook, Fold } from "~/app/components/controls";
import { PlanView } from "~/app/components/drawings/plan-view";
import { EntryButton, useAppend, useJob } from "~/app/components/entry-form";
import { Icon } from "~/app/components/icon";
import { Mark, type Tone } from "~/app/components/marks";
import { orKept } from "~/app/lib/kept-job";
import { unlessStayed } from "~/app/lib/stays";
import { database } from "~/app/server/db.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { LeadLine } from "~/core/lengths/job";
import { leadId } from "~/core/lengths/lead-id";
import { lengthsView } from "~/core/views/lengths";
import { stockOf } from "~/db/stock";
import type { Route } from "./+types/lengths";

type Shown = ReturnType<typeof lengthsView> & {
  /** What lies on the shelf; null where nobody can say. */
  stock: Record<string, number> | null;
};

export async function loader({ context }: Route.LoaderArgs): Promise<Shown> {
  const account = person(context);
  const { job } = await jobOf(context).load();
  return { ...lengthsView(job), stock: await stockOf(database(), account.shopId) };
}

/** On the device without the shelf, which belongs to the shop and not to the job. */
export function clientLoader({ params, serverLoader }: Route.ClientLoaderArgs) {
  return orKept<Shown>(params.job, serverLoader, ({ job, views }) => ({ ...views.lengthsView(job), stock: null }));
}

const MARKS: Record<"fits" | "short" | "unknown" | "none", { tone: Tone; word: string }> = {
  fits: { tone: "good", word: "Fits" },
  short: { tone: "stop", word: "Too short" },
  unknown: { tone: "none", word: "Measure it" },
  none: { tone: "watch", word: "No way" },
};

type View = Route.ComponentProps["loaderData"];

/** Counts and choices that the server could not take now stay on the page. */
export const shouldRevalidate = unlessStayed;

export default function Lengths({ loaderData: view }: Route.ComponentProps) {
  const { append } = useAppend();
  const { readOnly, next } = useJob();
  const short = view.leads.filter((l) => l.check?.verdict === "short");
  return (
    <>
      <ConnectPages short={short.length} />
      <Bench
        label="Places and lengths"
        items={itemsOf(view)}
        next={next.page === "lengths" ? next.at : undefined}
        car={(item) =>
          view.plan && (
            <PlanView
              plan={view.plan}
              leads={view.ways}
              parts={view.parts}
              at={item.id}
              {...(readOnly
                ? {}
                : { onPlace: (part, place) => append({ kind: "connect.place", data: { part, place } }) })}
            />
          )
        }
        empty={null}
      >
        {(item) => <InHand id={item.id} view={view} />}
      </Bench>
    </>
  );
}

function itemsOf({ leads, parts, material, findings, laidOut }: View): BenchItem[] {
  return [
    {
      id: "laid-out",
      title: "Lay the kit out",
      aside: "on the bench, before the dash is open",
      group: "On the bench",
      state: laidOut ? "done" : "open",
      word: laidOut ? "laid out" : "to do",
    },
    ...leads.map((l): BenchItem => {
      const mark = MARKS[l.check?.verdict ?? "none"];
      return {
        id: leadId(l.lead),
        title: l.name,
        aside: `${l.lead.from} to ${l.lead.to}`,
        group: "Leads on their way",
        state:
          mark.tone === "good" ? "done" : mark.tone === "stop" ? "wrong" : mark.tone === "watch" ? "watch" : "open",
        word: mark.word,
      };
    }),
    ...parts.map((p): BenchItem => {
      const minds = findings.some((f) => f.text.includes(p.name) || f.where.includes(p.name));
      return {
        id: p.id,
        title: p.name,
        aside: p.place,
        group: "Where it lies",
        state: minds ? "watch" : "look",
        word: minds ? "mind its place" : "",
      };
    }),
    {
      id: "material",
      title: "Consumables",
      aside: `${material.length} kinds`,
      group: "Look up",
      state: "look",
      word: "",
    },
  ];
}

function InHand({ id, view }: { id: string; view: View }) {
  const lead = view.leads.find((l) => leadId(l.lead) === id);
  if (lead) return <LeadFocus line={lead} />;
  const part = view.parts.find((p) => p.id === id);
  if (part) return <PlaceFocus part={part} view={view} />;
  if (id === "laid-out") return <LayOut view={view} />;
  return <Material view={view} />;
}

/** What is missing, too short or without a label is found before the dash is open. */
function LayOut({ view: { box, leads, laidOut } }: { view: View }) {
  const { job } = useJob();
  const short = leads.filter((l) => l.check?.verdict === "short");
  return (
    <Focus
      kicker="Before the dash is open"
      marks={laidOut && <Mark tone="good">Laid out</Mark>}
      title="Lay the kit out on the bench"
      actions={
        <>
          {!laidOut && (
            <EntryButton look="next" body={{ kind: "connect.laidOut", data: {} }} shortcut="Space">
              Complete and labelled
            </EntryButton>
          )}
          <a href={`/jobs/${job.id}/labels.pdf`} className={buttonLook(laidOut ? "plain" : "quiet")}>
            <Icon of={Download} size={18} /> Labels for the leads
          </a>
        </>
      }
    >
      {short.length > 0 && (
        <p className="text-stop">
          Too short for its way: {short.map((l) => l.name).join(", ")}. Get an extension first.
        </p>
      )}
      <ul className="grid gap-x-6 sm:grid-cols-2">
        {box.map((b) => (
          <li key={b} className="border-b border-rule py-1">
            {b}
          </li>
        ))}
      </ul>
    </Focus>
  );
}

function LeadFocus({ line: { lead, name, check, problem } }: { line: LeadLine }) {
  const mark = MARKS[check?.verdict ?? "none"];
  const { job } = useParams();
  return (
    <Focus
      kicker={`${lead.from} to ${lead.to}`}
      marks={<Mark tone={mark.tone}>{mark.word}</Mark>}
      title={name}
      actions={
        <a href={`/jobs/${job}/lengths.csv`} className={buttonLook("quiet")}>
          <Icon of={Download} size={18} /> Lengths and material as CSV
        </a>
      }
    >
      {check && (
        <p className="num text-lg">
          needs {check.neededM.toFixed(2)} m{check.hasM === null ? "" : `, has ${check.hasM.toFixed(2)} m`}
        </p>
      )}
      <p className={check?.verdict === "short" ? "text-stop" : ""}>{check?.say ?? problem}</p>
      {check?.minds.map((m) => (
        <p key={m} className="text-watch">
          {m}
        </p>
      ))}
      {check && (
        <ul>
          {check.lines.map((l) => (
            <li key={l.what} className="flex justify-between gap-4 border-t border-rule py-1">
              {l.what} <span className="num">{l.lengthM.toFixed(2)} m</span>
            </li>
          ))}
        </ul>
      )}
    </Focus>
  );
}

/** Where a part lies; another place is one press, and lengths, warnings and behaviour follow. */
function PlaceFocus({ part, view }: { part: View["parts"][number]; view: View }) {
  const minds = view.findings.filter((f) => f.text.includes(part.name) || f.where.includes(part.name));
  return (
    <Focus
      kicker="Lengths and warnings follow"
      title={`${part.name}: ${part.place}`}
      actions={[...new Set([part.place, ...view.places])].map((place) => (
        <EntryButton
          key={place}
          body={{ kind: "connect.place", data: { part: part.id, place } }}
          pressed={place === part.place}
          label={`${part.name} to: ${place}`}
          className={place === part.place ? "border-2! border-ink! font-semibold" : ""}
        >
          {place}
        </EntryButton>
      ))}
    >
      <Findings findings={minds} />
    </Focus>
  );
}

function Material({ view: { material, box, stock, car } }: { view: View }) {
  return (
    <Focus kicker="For this job, against the shelf" title="Consumables">
      <MaterialList material={material} box={box} stock={stock} />
      <Fold quiet line="Why so many">
        <p className="text-sm">
          A tie every 150 to 200 mm of the way (common practice). Ways and lengths stand in the{" "}
          <Link to={`/library/car/${car}`} className="underline">
            car's profile
          </Link>
          .
        </p>
      </Fold>
    </Focus>
  );
}
