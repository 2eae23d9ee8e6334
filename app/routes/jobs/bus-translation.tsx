import { ChevronDown, ChevronRight, Download, Trash2 } from "lucide";
import { useState } from "react";
import { Page } from "~/app/components/bench/page";
import { BusPages } from "~/app/components/bus/pages";
import { DescribedSignals } from "~/app/components/bus/translation/described-signals";
import { Prove, ReplayLanes } from "~/app/components/bus/translation/prove";
import { RuleEditor } from "~/app/components/bus/translation/rule-editor";
import { ruleWords } from "~/app/components/bus/translation/rule-words";
import { Button, buttonLook, Section } from "~/app/components/controls";
import { EntryButton, useJob } from "~/app/components/entry-form";
import { Icon } from "~/app/components/icon";
import { Mark, Notice } from "~/app/components/marks";
import { jobOf } from "~/app/server/jobs.server";
import { messagesOf } from "~/core/bus/hunt/found";
import { checkTranslation, type TranslationProblem } from "~/core/bus/translation/check";
import { draftRules } from "~/core/bus/translation/draft";
import { OUTPUT_IDS, OUTPUTS, type OutputId, type Rule, usualRule } from "~/core/bus/translation/translation";
import { standingProof } from "~/core/job/bus-proof";
import type { Route } from "./+types/bus-translation";

export async function loader({ context }: Route.LoaderArgs) {
  const { job } = await jobOf(context).load();
  const { files, cues, signals, translation } = job.state;
  const proof = standingProof(job.state);
  return {
    signals: [...signals],
    translation,
    proof: proof && { file: proof.file, outputs: proof.outputs },
    cues,
    dbc: files.filter((f) => f.what === "dbc").at(-1) ?? null,
    logs: files
      .filter((f) => f.what === "log" && cues[f.file])
      .map(({ file, name }) => ({ file, name, used: signals.some((s) => s.file === file) })),
  };
}

export default function BusTranslation({ loaderData: view }: Route.ComponentProps) {
  const { signals, translation } = view;
  const saved = translation?.rules ?? [];
  const [edited, setEdited] = useState<{ of: string | undefined; rules: Rule[] } | null>(null);
  // What was saved by somebody else meanwhile stands before what is edited here.
  const rules = edited && edited.of === translation?.entry ? edited.rules : saved;
  const put = (next: Rule[]) => setEdited({ of: translation?.entry, rules: next });
  const messages = messagesOf(signals, () => "");
  const problems = checkTranslation({ rules }, { messages });
  const stops = problems.filter((p) => p.tone === "stop");
  const changed = JSON.stringify(rules) !== JSON.stringify(saved);
  const log = view.logs.find((l) => l.file === view.proof?.file) ?? view.logs.at(-1);
  const described = view.dbc && (
    <Section title="From the bus description" id="described">
      <DescribedSignals dbc={view.dbc} known={signals} />
    </Section>
  );
  return (
    <>
      <BusPages />
      <Page>
        <Section
          title="What the module is told"
          id="rules"
          aside={
            signals.length === 1 ? "1 signal of this car is known" : `${signals.length} signals of this car are known`
          }
        >
          {signals.length === 0 ? (
            <p className="max-w-prose">
              No signal of this car is known yet. Find them first, under “Find signals”
              {view.dbc ? ", or take them from the bus description below." : "."}
            </p>
          ) : (
            <>
              {rules.length === 0 && (
                <Button look="next" onClick={() => put(draftRules(messages))}>
                  Begin with the signals that are known
                </Button>
              )}
              <ul>
                {rules.map((rule) => (
                  <RuleRow
                    key={rule.output}
                    rule={rule}
                    view={view}
                    problems={problems.filter((p) => p.output === rule.output)}
                    onChange={(next) => put(rules.map((r) => (r.output === rule.output ? next : r)))}
                    onRemove={() => put(rules.filter((r) => r.output !== rule.output))}
                  />
                ))}
              </ul>
              <div className="mt-4 flex flex-wrap items-center gap-3">
                {changed && (
                  <EntryButton
                    look="next"
                    body={{ kind: "bus.translation", data: { rules } }}
                    disabled={stops.length > 0}
                  >
                    Save the translation
                  </EntryButton>
                )}
                {changed && saved.length > 0 && <Button onClick={() => setEdited(null)}>Take back the changes</Button>}
                <AddOutput taken={rules.map((r) => r.output)} onAdd={(output) => put([...rules, usualRule(output)])} />
                {saved.length > 0 && !changed && <Exports />}
              </div>
              {changed && stops.length > 0 && (
                <p className="mt-2 text-sm text-stop">It can be saved when what is marked above is settled.</p>
              )}
            </>
          )}
        </Section>
        {rules.length === 0 && described}
        {saved.length > 0 && !changed && <Prove logs={view.logs} proof={view.proof} />}
        {log && rules.length > 0 && (
          <Section title="Replayed" id="replayed">
            <ReplayLanes log={log} rules={rules} signals={signals} cues={view.cues[log.file]?.cues ?? []} />
          </Section>
        )}
        {rules.length > 0 && described}
      </Page>
    </>
  );
}

function RuleRow({
  rule,
  view,
  problems,
  onChange,
  onRemove,
}: {
  rule: Rule;
  view: Route.ComponentProps["loaderData"];
  problems: readonly TranslationProblem[];
  onChange(next: Rule): void;
  onRemove(): void;
}) {
  const [open, setOpen] = useState(rule.when.length === 0 && rule.level === null);
  const proven = view.proof?.outputs.find((o) => o.output === rule.output);
  const { name } = OUTPUTS[rule.output];
  return (
    <li className="border-b border-rule py-1.5">
      <div className="flex flex-wrap items-center gap-x-4">
        <button
          type="button"
          className="inline-flex min-h-11 grow items-center gap-2 text-left font-medium sm:w-60 sm:grow-0"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {open ? <Icon of={ChevronDown} size={18} /> : <Icon of={ChevronRight} size={18} />}
          {name}
        </button>
        <span className="order-2 basis-full sm:order-none sm:basis-0 sm:grow">{ruleWords(rule, view.signals)}</span>
        {proven && proven.cued > 0 && (
          <Mark tone={proven.passed ? "good" : "stop"}>{proven.passed ? "proven" : "not as it should"}</Mark>
        )}
        <Button look="quiet" aria-label={`Remove ${name}`} onClick={onRemove}>
          <Icon of={Trash2} size={18} />
        </Button>
      </div>
      {problems.map((p) => (
        <div key={p.problem} className="mb-2">
          <Notice tone={p.tone} title={p.problem}>
            <p>{p.remedy}</p>
          </Notice>
        </div>
      ))}
      {open && <RuleEditor rule={rule} signals={view.signals} onChange={onChange} />}
    </li>
  );
}

function AddOutput({ taken, onAdd }: { taken: readonly OutputId[]; onAdd(output: OutputId): void }) {
  const free = OUTPUT_IDS.filter((o) => !taken.includes(o));
  if (free.length === 0) return null;
  return (
    <select
      className="field w-auto!"
      aria-label="Add an output"
      value=""
      onChange={(e) => e.currentTarget.value !== "" && onAdd(e.currentTarget.value as OutputId)}
    >
      <option value="">Add an output ...</option>
      {free.map((o) => (
        <option key={o} value={o}>
          {OUTPUTS[o].name}
        </option>
      ))}
    </select>
  );
}

/** The translation as files. */
function Exports() {
  const { job } = useJob();
  return (
    <>
      <a className={buttonLook("plain")} href={`/jobs/${job.id}/translation-file/json`} download>
        <Icon of={Download} size={18} /> JSON
      </a>
      <a className={buttonLook("plain")} href={`/jobs/${job.id}/translation-file/csv`} download>
        <Icon of={Download} size={18} /> Table
      </a>
      <a className="text-sm underline" href="/library/translation.schema.json">
        Schema of the JSON
      </a>
    </>
  );
}
