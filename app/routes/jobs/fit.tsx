import { Form, useSubmit } from "react-router";
import { Section } from "~/app/components/controls";
import { EntryButton } from "~/app/components/entry-form";
import { Ledger } from "~/app/components/fit/ledger";
import { Notice } from "~/app/components/marks";
import { loadJob, planOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { fitVerdict, ledger } from "~/core/fit/ledger";
import { resolveChoices } from "~/core/model/compose";
import type { Route } from "./+types/fit";

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const account = person(context);
  const { row, state, plan: confirmed } = await loadJob(account, params.job);
  const { kit } = confirmed.documents;
  const asked = Object.fromEntries(
    [...new URL(request.url).searchParams].filter(([key, value]) =>
      kit.choices.some((c) => c.id === key && c.options.some((o) => o.id === value)),
    ),
  );
  const choices = { ...(state.choices ?? {}), ...asked };
  const plan = await planOf(account, row, { choices, wishes: state.wishes });
  const lines = ledger(plan.stock, plan.fitted, plan.settings, plan.touched.parts);
  const chosen = resolveChoices(kit, choices);
  return {
    kit: kit.title,
    choices: kit.choices.map((c) => ({ ...c, chosen: chosen[c.id] ?? c.usual })),
    chosen: { ...chosen },
    confirmed: state.choices !== null && Object.entries(chosen).every(([k, v]) => state.choices?.[k] === v),
    verdict: fitVerdict(lines, state.wishes ?? []),
    lines,
    box: kit.box,
    besides: kit.needs.map((n) => n.say),
    tells: plan.documents.variant.tells,
    missing: plan.switches?.missing ?? [],
  };
}

export default function Fit({ loaderData }: Route.ComponentProps) {
  const { kit, verdict, choices, chosen, confirmed, lines } = loaderData;
  const submit = useSubmit();
  const tone = verdict.level === "possible" ? "good" : verdict.level === "conditions" ? "watch" : "stop";
  return (
    <>
      <Notice tone={tone} title={kit}>
        <p>{verdict.text}</p>
        {loaderData.missing.length > 0 && <p>No position of the switch bank gives: {loaderData.missing.join(", ")}.</p>}
      </Notice>
      <div className="mt-5" />
      <Section title="Choices" id="choices" aside={confirmed ? "Confirmed" : "Preview, not confirmed"}>
        <Form
          onChange={(e) => submit(e.currentTarget, { replace: true, preventScrollReset: true })}
          className="space-y-4"
        >
          {choices.map((c) => (
            <fieldset key={c.id}>
              <legend className="font-medium">{c.label}</legend>
              {c.options.map((o) => (
                <label key={o.id} className="flex min-h-11 gap-3 py-2">
                  <input
                    type="radio"
                    name={c.id}
                    value={o.id}
                    defaultChecked={o.id === c.chosen}
                    className="mt-1 size-5 accent-[var(--ink)]"
                  />
                  <span>
                    <span className="font-medium">{o.label}</span>
                    {o.id === c.usual && <span className="text-quiet"> (usual)</span>}
                    <span className="block text-quiet">{o.why}</span>
                  </span>
                </label>
              ))}
            </fieldset>
          ))}
        </Form>
        <div className="mt-3">
          <EntryButton
            look={confirmed ? "plain" : "next"}
            body={{ kind: "fit.confirm", data: { choices: chosen } }}
            disabled={confirmed || verdict.level === "impossible"}
          >
            {confirmed ? "Kit and choices are confirmed" : "Confirm kit and choices"}
          </EntryButton>
        </div>
      </Section>
      <Ledger lines={lines} />
      <div className="grid gap-x-8 md:grid-cols-3">
        <Section title="In the box" id="box">
          <List items={loaderData.box} />
        </Section>
        <Section title="Needed besides" id="besides">
          <List items={loaderData.besides} />
        </Section>
        <Section title="Is it this radio?" id="tells">
          <List items={loaderData.tells} />
        </Section>
      </div>
    </>
  );
}

function List({ items }: { items: string[] }) {
  return (
    <ul className="list-disc space-y-1 pl-5">
      {items.map((i) => (
        <li key={i}>{i}</li>
      ))}
    </ul>
  );
}
