import { Download, Network, QrCode, Ruler, Zap } from "lucide-react";
import { Form, Link, useOutletContext, useParams, useSubmit } from "react-router";
import { z } from "zod";
import { BeforePlugging } from "~/app/components/connect/before-plugging";
import { ConnectionList } from "~/app/components/connect/connection-list";
import { Findings } from "~/app/components/connect/findings";
import { LaneDrawing } from "~/app/components/connect/lane-drawing";
import { SituationForm } from "~/app/components/connect/situation-form";
import { Button, buttonLook, Section } from "~/app/components/controls";
import { Mark, Notice } from "~/app/components/marks";
import { libraryKits } from "~/app/server/fit.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { connectView } from "~/core/views/connect";
import { situationSchema } from "~/profiles/schema";
import type { Route } from "./+types/connect";
import type { JobContext } from "./layout";

const truth = z.enum(["true", "false"]).transform((t) => t === "true");
const { key, selector, source, pictureMode, phone } = situationSchema.shape;
const asked = z
  .object({ key, selector, source, pictureMode, phone, lights: truth, paired: truth })
  .partial()
  // A field that cannot be read counts as not asked.
  .catch({});

export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const query = new URL(request.url).searchParams;
  const lane = query.get("lane");
  // Another function begins in its own situation.
  const same = lane === query.get("of");
  const { job } = await jobOf(context).load();
  return connectView(job, await libraryKits(account), lane, same ? asked.parse(Object.fromEntries(query)) : {});
}

export default function Connect({ loaderData }: Route.ComponentProps) {
  const { before, connections, planFindings, nowFindings, works, lane: drawn, chosen, short } = loaderData;
  const { kitChosen } = useOutletContext<JobContext>();
  const submit = useSubmit();
  const { job } = useParams();
  const left = connections.filter((c) => !c.plugged).length;
  const working = works.filter((w) => w.works).length;
  const notes = planFindings.filter((f) => f.level === "note");
  const problems = planFindings.filter((f) => f.level !== "note");
  const stops = nowFindings.some((f) => f.level === "stop");
  return (
    <>
      {nowFindings.length > 0 && (
        <section aria-labelledby="wrong" className="mb-4">
          <h2 id="wrong" className="mb-2 text-stop">
            {stops ? "Do not switch on" : "Mind this before you switch on"}
          </h2>
          <Findings findings={nowFindings} />
        </section>
      )}
      {problems.length > 0 && <Findings findings={problems} />}
      {kitChosen && problems.length === 0 && !stops && (
        <Notice tone="good" title="The plan holds together">
          <p>
            Every plug mates, every input has one output, every part has supply, fuse and ground, no factory plug is
            left open.
          </p>
        </Notice>
      )}
      <p className="mt-3 flex flex-wrap gap-2">
        <Link to="feed" relative="path" className={buttonLook()}>
          <Zap size={20} aria-hidden="true" /> Feed, wire, battery, meter readings
        </Link>
        <Link to="lengths" relative="path" className={buttonLook()}>
          <Ruler size={20} aria-hidden="true" /> Places, lengths, small material
          {short > 0 && <Mark tone="stop">{short === 1 ? "1 lead too short" : `${short} leads too short`}</Mark>}
        </Link>
        <Link to="system" relative="path" className={buttonLook()}>
          <Network size={20} aria-hidden="true" /> Whole system drawn
        </Link>
        <a href={`/jobs/${job}/connections.csv`} className={buttonLook("quiet")}>
          <Download size={18} aria-hidden="true" /> Connections as CSV
        </a>
        <a href={`/jobs/${job}/labels.pdf`} className={buttonLook("quiet")} target="_blank" rel="noreferrer">
          <QrCode size={18} aria-hidden="true" /> Labels for the leads
        </a>
      </p>
      {notes.length > 0 && (
        <details className="mt-3">
          <summary className="min-h-11 cursor-pointer py-2 font-medium">
            Mind while plugging: {notes.length === 1 ? "1 thing" : `${notes.length} things`}
          </summary>
          <Findings findings={notes} />
        </details>
      )}
      <div className="mt-5 grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-[minmax(0,1fr)_24rem]">
        <div>
          {before.length > 0 && (
            <Section
              title="Before the kit goes in"
              id="before"
              aside={`${before.filter((t) => !t.done).length} of ${before.length} left`}
            >
              <BeforePlugging tasks={before} />
            </Section>
          )}
          <Section
            title="Connections, in the order of plugging"
            id="connections"
            aside={
              connections.length === 0
                ? "None yet"
                : left === 0
                  ? "All plugged"
                  : `${left} of ${connections.length} open`
            }
          >
            <ConnectionList connections={connections} />
          </Section>
        </div>
        <div>
          <Section title="If I switch on now" id="now" aside={`${working} of ${works.length} would work`}>
            <p className="mb-2 text-quiet">
              As far as it is marked here.
              {loaderData.failing > 0 && " The bench test says otherwise: something is not as marked. Prove finds it."}
            </p>
            <ul>
              {works.map((w) => (
                <li key={w.id} className="flex items-center justify-between gap-3 border-b border-rule py-1.5">
                  <span>
                    {w.name} <span className="text-quiet">{w.label}</span>
                  </span>
                  <Mark tone={w.works ? "good" : "none"}>{w.works ? "Works" : "Not yet"}</Mark>
                </li>
              ))}
            </ul>
          </Section>
          {loaderData.stays.length > 0 && (
            <Section title="Stays in the box" id="stays">
              <ul>
                {loaderData.stays.map((s) => (
                  <li key={s.name} className="border-b border-rule py-1.5">
                    <p className="font-medium">{s.name}</p>
                    <p className="text-sm text-quiet">{s.why}</p>
                  </li>
                ))}
              </ul>
            </Section>
          )}
        </div>
      </div>
      <Section title="Lane of a function" id="lane" aside={drawn ? `Ends at: ${drawn.ends}` : undefined}>
        <Form
          onChange={(e) => submit(e.currentTarget, { replace: true, preventScrollReset: true })}
          preventScrollReset
          className="mb-4"
        >
          <input type="hidden" name="of" value={chosen} />
          <label className="block max-w-lg">
            <span className="font-medium">Function</span>
            <select name="lane" defaultValue={chosen} key={chosen} className="field mt-1">
              {works.map((w) => (
                <option key={w.id} value={w.id}>
                  {w.name}, {w.label} {w.works ? "" : "– not yet"}
                </option>
              ))}
            </select>
          </label>
          {loaderData.situation && <SituationForm now={loaderData.situation} />}
          <noscript>
            <Button type="submit">Draw</Button>
          </noscript>
        </Form>
        {drawn && <LaneDrawing lane={drawn} />}
      </Section>
    </>
  );
}
