import { RotateCcw } from "lucide";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";

/**
 * Takes back what this person has just done, under the thumb, on every surface of a job. What it takes back stands
 * beside the button, not in its name: a button named after another one is pressed for it.
 */
export function LastDone({ last }: { last: { entry: string; words: string } | null }) {
  if (!last) return null;
  return (
    <>
      {/* So that the end of the page can be scrolled free of it; where it has columns they keep the room themselves. */}
      <div className="h-16 lg:hidden" />
      <div className="fixed right-3 bottom-3 z-10 flex max-w-[calc(100vw-1.5rem)] lg:max-w-80 items-center gap-3 rounded border border-rule bg-paper pl-3 shadow-md">
        <p className="min-w-0 max-w-64 truncate text-quiet text-sm" title={last.words}>
          {last.words}
        </p>
        <EntryButton
          key={last.entry}
          body={{ kind: "undo", data: { entry: last.entry } }}
          className="shrink-0 whitespace-nowrap"
        >
          <Icon of={RotateCcw} size={18} /> Undo last
        </EntryButton>
      </div>
    </>
  );
}
