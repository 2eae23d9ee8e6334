import { Network, Ruler, Zap } from "lucide-react";
import { Form, Link, useSubmit } from "react-router";
import { ConnectionList } from "~/app/components/connect/connection-list";
import { LaneDrawing } from "~/app/components/connect/lane-drawing";
import { buttonLook, Section } from "~/app/components/controls";
import { EntryButton } from "~/app/components/entry-form";
import { Mark, Notice } from "~/app/components/marks";
import { loadJob } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { asPlugged, misplaced, placesFor } from "~/core/connect/as-plugged";
import { checkConnections } from "~/core/connect/check";
import { lane } from "~/core/connect/lane";
import { isFailure, openNow } from "~/core/job/plan";
import { lengthsOf } from "~/core/lengths/job";
import { conditionTest, resolveChoices } from "~/core/model/compose";
import { findPort } from "~/core/model/faults";
import { Model } from "~/core/model/outcome";
import { describePort } from "~/core/model/words";
import type { Route } from "./+types/connect";

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { state, plan } = await loadJob(person(context), params.job);
  const open = openNow(plan, state);
  const system = asPlugged(plan.fitted, state.plugAt);
  const model = new Model(system, open, plan.settings);
  const works = plan.tests.map((t) => ({
    id: t.id,
    name: t.fn.name,
    label: t.label,
    works: model.try(t.fn, t.situationId).outcome.kind === "ok",
  }));
  const wanted = new URL(request.url).searchParams.get("lane");
  const test =
    plan.tests.find((t) => t.id === wanted) ??
    plan.tests.find((t) => isFailure(state.results.get(t.id)?.value)) ??
    plan.tests.find((t) => works.some((w) => w.id === t.id && !w.works)) ??
    plan.tests[0];
  return {
    connections: plan.connections.map((c) => ({
      ...c,
      plugged: !(c.link in (open.openLinks ?? {})),
      marked: state.plugged.has(c.link),
      wrong: state.plugAt.has(c.link),
      places: placesFor(plan.fitted, c).map((port) => ({
        port,
        name: findPort(plan.fitted, port)?.label ?? port,
        planned: port === c.b,
      })),
      plug: looks(c.a),
      socket: looks(c.b),
      halves: [c.a, c.b].flatMap((ref) => {
        const port = findPort(plan.fitted, ref);
        return port?.connector ? [{ name: describePort(plan.fitted, ref), port }] : [];
      }),
    })),
    planFindings: checkConnections(plan.stock, plan.fitted, plan.documents.kit, {}, plan.settings),
    nowFindings: checkConnections(plan.stock, system, plan.documents.kit, open, plan.settings),
    misplaced: misplaced(plan.fitted, state.plugAt),
    works,
    lane: test ? lane(system, test.fn, test.situationId, plan.settings, open) : null,
    chosen: test?.id ?? "",
    short: shortLeads(),
    failing: plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value)).length,
  };

  /** Leads of the kit that do not reach, known before the dash is open. */
  function shortLeads(): number {
    const { car, kit } = plan.documents;
    const applies = conditionTest(car, plan.stock, resolveChoices(kit, state.choices ?? {}));
    return lengthsOf(car, kit, plan.fitted, applies, false).leads.filter((l) => l.check?.verdict === "short").length;
  }

  function looks(port: string) {
    const connector = findPort(plan.fitted, port)?.connector;
    return connector
      ? { family: connector.family, keying: connector.keying ?? "", colour: connector.colour ?? "" }
      : null;
  }
}

export default function Connect({ loaderData }: Route.ComponentProps) {
  const { connections, planFindings, nowFindings, works, lane: drawn, chosen, short } = loaderData;
  const submit = useSubmit();
  const left = connections.filter((c) => !c.plugged).length;
  const working = works.filter((w) => w.works).length;
  return (
    <>
      {planFindings.length === 0 ? (
        <Notice tone="good" title="The plan holds together">
          <p>
            Every plug mates, every input has one output, every part has supply and ground, no factory plug is left
            open.
          </p>
        </Notice>
      ) : (
        planFindings.map((f) => (
          <Notice key={f.rule + f.place} tone={f.level} title={f.place}>
            <p>
              {f.text} {f.remedy}
            </p>
          </Notice>
        ))
      )}
      {loaderData.misplaced.map((f) => (
        <div key={f.link} className="mt-3">
          <Notice tone="stop" title={`Do not switch on: ${f.place}`}>
            <p>
              {f.text} {f.remedy}
            </p>
            <EntryButton
              className="mt-1"
              body={{ kind: "connect.plug", data: { link: f.link ?? "", plugged: true } }}
              label={`It is moved: ${f.place}`}
            >
              It is moved
            </EntryButton>
          </Notice>
        </div>
      ))}
      <p className="mt-3 flex flex-wrap gap-2">
        <Link to="feed" relative="path" className={buttonLook()}>
          <Zap size={20} aria-hidden="true" /> Feed, wire, battery, meter readings
        </Link>
        <Link to="lengths" relative="path" className={buttonLook()}>
          <Ruler size={20} aria-hidden="true" /> Lengths and small material
          {short > 0 && <Mark tone="stop">{short === 1 ? "1 lead too short" : `${short} leads too short`}</Mark>}
        </Link>
        <Link to="system" relative="path" className={buttonLook()}>
          <Network size={20} aria-hidden="true" /> Whole system drawn
        </Link>
      </p>
      <div className="mt-5 grid grid-cols-[minmax(0,1fr)] gap-x-10 xl:grid-cols-[minmax(0,1fr)_24rem]">
        <Section
          title="Connections, in the order of plugging"
          id="connections"
          aside={left === 0 ? "All plugged" : `${left} of ${connections.length} open`}
        >
          <ConnectionList connections={connections} />
        </Section>
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
            {nowFindings.some((f) => f.rule === "two-drivers" || f.rule === "direction" || f.rule === "mating") && (
              <p className="mt-3 text-stop">A lead is in the wrong place. Do not switch on.</p>
            )}
          </Section>
        </div>
      </div>
      <Section title="Lane of a function" id="lane" aside={drawn ? `Ends at: ${drawn.ends}` : undefined}>
        <Form
          onChange={(e) => submit(e.currentTarget, { replace: true, preventScrollReset: true })}
          className="mb-4 max-w-lg"
        >
          <label>
            <span className="font-medium">Function</span>
            <select name="lane" defaultValue={chosen} key={chosen} className="field mt-1">
              {works.map((w) => (
                <option key={w.id} value={w.id}>
                  {w.name}, {w.label} {w.works ? "" : "– not yet"}
                </option>
              ))}
            </select>
          </label>
        </Form>
        {drawn && <LaneDrawing lane={drawn} />}
      </Section>
    </>
  );
}
