import { Check, CircleDashed } from "lucide-react";
import { useState } from "react";
import type { configureView } from "~/core/views/configure";
import { Focus } from "../bench/focus";
import { Button, Field } from "../controls";
import { useAppend, useJob } from "../entry-form";
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
  const { readOnly, next } = useJob();
  const [number, setNumber] = useState(load?.identification ?? "");
  const [data, setData] = useState(load?.data ?? "");
  const look = next.at === set.setting && !done ? "next" : "plain";
  const say = (what: "blank" | "loaded") =>
    append({ kind: "configure.loaded", data: { setting: set.setting, what, identification: number, data } });
  return (
    <Focus
      kicker="Loaded on a computer, before it is fitted"
      marks={done && !load ? <Mark tone="good">Made</Mark> : <LoadMark load={load} />}
      title={set.say}
      after={after}
      actions={
        <>
          <Button look={look} disabled={busy || readOnly} onClick={() => say("loaded")} aria-keyshortcuts="Space">
            <Check size={18} aria-hidden="true" /> It is loaded
          </Button>
          <Button disabled={busy || readOnly} onClick={() => say("blank")} aria-keyshortcuts="n">
            <CircleDashed size={18} aria-hidden="true" /> It is blank
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
      {load?.car === "notKnown" && load.what === "loaded" && (
        <p className="text-watch">For which car it is loaded is not known: look on the label or ask the computer.</p>
      )}
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
    </Focus>
  );
}

function LoadMark({ load }: Pick<LoadSet, "load">) {
  if (!load) return <Mark tone="none">Nobody has looked</Mark>;
  if (load.what === "blank") return <Mark tone="stop">Blank</Mark>;
  if (load.car === "another") return <Mark tone="stop">For another car</Mark>;
  return load.car === "this" ? <Mark tone="good">For this car</Mark> : <Mark tone="watch">Loaded, car not known</Mark>;
}
