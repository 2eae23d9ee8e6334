import { format } from "date-fns";
import { Undo2 } from "lucide-react";
import { Section } from "../controls";
import { EntryButton } from "../entry-form";

const WORDS: Readonly<Record<string, string>> = {
  "intake.car": "Car sheet saved",
  "intake.baseline": "Baseline try",
  "intake.wishes": "Wishes",
  "fit.confirm": "Kit and choices confirmed",
  "strip.step": "Strip step",
  "strip.skip": "Step left out",
  "strip.add": "Step added",
  "strip.want": "Something else to take off",
  "strip.split": "Step split",
  "strip.note": "Note on a step",
  "strip.count": "Fasteners counted",
  "strip.small": "Small part to get",
  "strip.gate": "Bench test passed over",
  "strip.maintainer": "Maintainer",
  "connect.plug": "Connection",
  "connect.feedTest": "Tester at a fuse",
  "connect.feed": "Switched feed taken",
  "connect.reading": "Meter reading",
  "configure.switches": "Switch bank entered",
  "configure.powerCycle": "Module without power once",
  "bus.file": "Bus file stored",
  "prove.result": "Test result",
  "prove.check": "Check",
  "prove.repair": "Repair",
  "handover.point": "Point noted",
  "handover.close": "Job closed",
  "handover.reopen": "Job reopened",
  undo: "Taken back",
};

interface Entry {
  id: string;
  at: string;
  by: string;
  kind: string;
  data: string;
  undone: boolean;
}

/** The log of the job, newest first. Taking an entry back is an entry, too. */
export function History({ entries, closed }: { entries: Entry[]; closed: boolean }) {
  return (
    <Section title="Log" id="log" aside="Last 40 entries; nothing is ever deleted">
      <details>
        <summary className="min-h-11 cursor-pointer py-2">Show the log</summary>
        <ol>
          {entries.map((e) => (
            <li
              key={e.id}
              className={`flex flex-wrap items-center gap-x-4 border-b border-rule py-1 ${e.undone ? "line-through" : ""}`}
            >
              <span className="num text-sm text-quiet">{format(new Date(e.at), "d MMM HH:mm")}</span>
              <span>{WORDS[e.kind] ?? e.kind}</span>
              <span className="num min-w-0 flex-1 truncate text-sm text-quiet">{e.data === "{}" ? "" : e.data}</span>
              <span className="text-sm text-quiet">{e.by}</span>
              {!closed && !e.undone && (
                <EntryButton
                  look="quiet"
                  body={{ kind: "undo", data: { entry: e.id } }}
                  label={`Take back: ${WORDS[e.kind] ?? e.kind}, ${format(new Date(e.at), "HH:mm")}`}
                >
                  <Undo2 size={16} aria-hidden="true" /> Take back
                </EntryButton>
              )}
            </li>
          ))}
        </ol>
      </details>
    </Section>
  );
}
