import { BookUp, Download } from "lucide";
import { Form } from "react-router";
import type { CarMessage } from "~/core/bus/car-messages";
import type { FoundSignal } from "~/core/bus/hunt/found";
import { Button, buttonLook, Section } from "../controls";
import { EntryButton, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark } from "../marks";
import { SignalTable } from "./signal-table";
import { ruleWords } from "./translation/rule-words";

/** A bus map of the library that could be taken. */
export interface BusMapChoice {
  slug: string;
  version: number;
  title: string;
  signals: number;
}

/** What the car says by its model, and how it reads on its bus; the signals behind it; the library's map. */
export function KnownSignals({
  messages,
  signals,
  origins,
  maps,
  draft,
}: {
  messages: readonly CarMessage[];
  signals: readonly FoundSignal[];
  /** Where each signal is known from, in the order of `signals`. */
  origins: readonly string[];
  maps: readonly BusMapChoice[];
  /** Identifier for the draft of a bus map. */
  draft: string;
}) {
  const { job, readOnly } = useJob();
  const known = messages.filter((m) => m.rule).length;
  return (
    <Section title="What this car says" id="kept" aside={`${known} of ${messages.length} messages known`}>
      {maps.map((m) => (
        <div key={m.slug} className="mb-3 flex flex-wrap items-center gap-3">
          <EntryButton
            look={signals.length === 0 ? "next" : "plain"}
            body={{ kind: "bus.map", data: { map: { slug: m.slug, version: m.version } } }}
          >
            Take the bus map of the library
          </EntryButton>
          <span>
            {m.title}, version <span className="num">{m.version}</span>:{" "}
            {m.signals === 1 ? "1 signal" : `${m.signals} signals`}
          </span>
        </div>
      ))}
      <ul className="mb-4 grid gap-x-10 sm:grid-cols-2">
        {messages.map((m) => (
          <li
            key={m.output}
            className="flex flex-wrap items-center justify-between gap-x-4 border-b border-rule py-1.5"
          >
            <span>
              <span className="font-medium">{m.name}</span>
              {m.needed && <span className="text-sm text-quiet"> the module needs it</span>}
            </span>
            {m.rule ? (
              <span className="num text-sm">{ruleWords(m.rule, signals)}</span>
            ) : (
              <Mark tone={m.needed ? "watch" : "none"}>not found yet</Mark>
            )}
          </li>
        ))}
      </ul>
      {signals.length > 0 && (
        <div className="flex flex-wrap items-start gap-3">
          <a className={buttonLook("plain")} href={`/jobs/${job.id}/bus-map.dbc`} download>
            <Icon of={Download} size={18} /> Bus description
          </a>
          <Form method="post" action={`/jobs/${job.id}/bus-map`}>
            <input type="hidden" name="draft" value={draft} />
            <Button type="submit" disabled={readOnly}>
              <Icon of={BookUp} size={18} /> Into the library
            </Button>
          </Form>
          <details className="open:basis-full">
            <summary className="inline-flex min-h-11 cursor-pointer items-center underline">
              {signals.length === 1 ? "The signal" : `The ${signals.length} signals`} behind it
            </summary>
            <SignalTable
              signals={signals.map((s, i) => ({
                ...s,
                values: s.values.map(([raw, name]) => ({ raw, name })),
                origin: origins[i] ?? "",
              }))}
            />
          </details>
        </div>
      )}
    </Section>
  );
}
