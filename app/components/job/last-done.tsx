import { RotateCcw } from "lucide";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";

/** Takes back what this person has just done, under the thumb, on every surface of a job. */
export function LastDone({ last }: { last: { entry: string; words: string } | null }) {
  if (!last) return null;
  return (
    <div className="fixed right-3 bottom-3 z-10" title={last.words}>
      <EntryButton
        key={last.entry}
        body={{ kind: "undo", data: { entry: last.entry } }}
        label={`Undo last: ${last.words}`}
        className="shadow-md"
      >
        <Icon of={RotateCcw} size={18} /> Undo last
      </EntryButton>
    </div>
  );
}
