import { Check, CircleDashed, Download } from "lucide";
import { useState } from "react";
import { Link } from "react-router";
import type { configureView } from "~/core/views/configure";
import { Focus } from "../bench/focus";
import { Button, Field } from "../controls";
import { useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark, Notice } from "../marks";

type LoadSet = ReturnType<typeof configureView>["sets"][number];

/** What is loaded on a computer before the visit: looked at before the module is fitted, with its own record. */
export function LoadFocus({
  set,
  identification,
  after,
}: {
  set: LoadSet;
  identification: string;
  after: string | undefined;
}) {
  const { load, done } = set;
  const { append, busy } = useAppend();
  const { job, readOnly, next } = useJob();
  const [number, setNumber] = useState(load?.identification ?? "");
  const [data, setData] = useState(load?.data ?? "");
  const rules = set.told?.outputs.some((o) => o.rule) ?? false;
  const told = set.told?.loaded === "this";
  const look = next.at === set.setting && !done ? "next" : "plain";
  const say = (what: "blank" | "loaded", translation = false) =>
    append({
      kind: "configure.loaded",
      data: { setting: set.setting, what, identification: number, data, translation },
    });
  return (
    <Focus
      kicker="Loaded on a computer, before it is fitted"
      marks={done && !load ? <Mark tone="good">Made</Mark> : <LoadMark load={load} told={set.told} />}
      title={set.say}
      after={after}
      actions={
        <>
          {!told && (
            <Button
              look={rules ? "plain" : look}
              disabled={busy || readOnly}
              onClick={() => say("loaded")}
              aria-keyshortcuts={rules ? "m" : "Space"}
            >
              <Icon of={Check} size={18} /> {rules ? "It is loaded with the maker's data" : "It is loaded"}
            </Button>
          )}
          <Button disabled={busy || readOnly} onClick={() => say("blank")} aria-keyshortcuts="n">
            <Icon of={CircleDashed} size={18} /> It is blank
          </Button>
        </>
      }
    >
      {load?.what === "blank" && (
        <Notice tone="stop" title="Do not fit it: it does nothing of its own.">
          <p>Load it on the computer for the car of this job, then say so here.</p>
        </Notice>
      )}
      {load?.car === "another" && load.what === "loaded" && (
        <Notice tone="stop" title="Do not fit it: it is loaded for another car.">
          <p>
            It says <span className="num">{load.identification}</span>, this car is{" "}
            <span className="num">{identification}</span>. Load it anew, or put it with the right car.
          </p>
        </Notice>
      )}
      {set.told && (
        <Told
          told={set.told}
          busy={busy || readOnly}
          look={look}
          load={() => say("loaded", true)}
          translation={`/jobs/${job.id}/bus/translation`}
        />
      )}
      {load?.car === "notKnown" && load.what === "loaded" && (
        <p className="text-watch">For which car it is loaded is not known: look on the label or ask the computer.</p>
      )}
      {!told && (
        <div className="grid max-w-xl gap-4 sm:grid-cols-2">
          <Field label="Loaded for the identification number" hint="Whole, or its last six characters and more">
            {(ids) => (
              <input
                {...ids}
                className="field num mt-1 uppercase"
                autoComplete="off"
                spellCheck={false}
                maxLength={40}
                value={number}
                onChange={(e) => setNumber(e.target.value)}
              />
            )}
          </Field>
          <Field label="Data in it" hint="Name and version, as the label or the computer shows">
            {(ids) => (
              <input
                {...ids}
                className="field mt-1"
                maxLength={120}
                value={data}
                onChange={(e) => setData(e.target.value)}
              />
            )}
          </Field>
        </div>
      )}
    </Focus>
  );
}

/** What of the car this module wants to be told, and whether the translation of the job says it. */
function Told({
  told,
  busy,
  look,
  load,
  translation,
}: {
  told: NonNullable<LoadSet["told"]>;
  busy: boolean;
  look: "next" | "plain";
  load(): void;
  translation: string;
}) {
  const rules = told.outputs.some((o) => o.rule);
  return (
    <section aria-label="Translation of this job" className="max-w-xl border-y border-rule py-3">
      <h3 className="mb-2 font-semibold">It takes the translation of this job</h3>
      <ul className="flex flex-wrap gap-x-6 gap-y-1">
        {told.outputs.map((o) => (
          <li key={o.id} className="inline-flex items-center gap-2">
            <Mark tone={o.rule ? "good" : "watch"}>
              {o.rule ? "rule" : o.kind === "lock" ? "no rule: stays locked" : "no rule"}
            </Mark>{" "}
            {o.name}
          </li>
        ))}
      </ul>
      {rules && !told.proven && told.loaded !== "this" && (
        <p className="mt-2 text-watch">It is not proven on a recording of its own yet.</p>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-4">
        {rules && told.loaded !== "this" && (
          <Button look={look} disabled={busy} onClick={load} aria-keyshortcuts="Space">
            <Icon of={Download} size={18} /> Load the translation into it
          </Button>
        )}
        <Link className="underline" to={translation}>
          {rules ? "To the translation" : "Find its messages and write a translation"}
        </Link>
      </div>
    </section>
  );
}

function LoadMark({ load, told }: Pick<LoadSet, "load" | "told">) {
  if (told?.loaded === "this") return <Mark tone="good">Translation loaded</Mark>;
  if (told?.loaded === "before") return <Mark tone="stop">The translation has changed since: load it again</Mark>;
  if (!load) return <Mark tone="none">Nobody has looked</Mark>;
  if (load.what === "blank") return <Mark tone="stop">Blank</Mark>;
  if (load.car === "another") return <Mark tone="stop">For another car</Mark>;
  return load.car === "this" ? <Mark tone="good">For this car</Mark> : <Mark tone="watch">Loaded, car not known</Mark>;
}
