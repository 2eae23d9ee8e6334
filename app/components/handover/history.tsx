import { format } from "date-fns";
import { Undo2 } from "lucide";
import { Focus } from "../bench/focus";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";

interface Entry {
  id: string;
  at: string;
  by: string;
  words: string;
  undone: boolean;
  canUndo: boolean;
}

/** The log of the job, newest first. Taking an entry back is an entry, too. */
export function History({ entries, closed }: { entries: Entry[]; closed: boolean }) {
  return (
    <Focus kicker="Last 40 entries; nothing is ever deleted" title="Log">
      <ol>
        {entries.map((e) => (
          <li
            key={e.id}
            className={`flex flex-wrap items-center gap-x-4 border-b border-rule py-1 ${e.undone ? "line-through" : ""}`}
          >
            <span className="num text-sm text-quiet">{format(new Date(e.at), "d MMM HH:mm")}</span>
            <span className="min-w-0 flex-1">{e.words}</span>
            <span className="text-sm text-quiet">{e.by}</span>
            {!closed && !e.undone && e.canUndo && (
              <EntryButton
                look="quiet"
                body={{ kind: "undo", data: { entry: e.id } }}
                label={`Undo: ${e.words}, ${format(new Date(e.at), "HH:mm")}`}
              >
                <Icon of={Undo2} size={16} /> Undo
              </EntryButton>
            )}
          </li>
        ))}
      </ol>
    </Focus>
  );
}
