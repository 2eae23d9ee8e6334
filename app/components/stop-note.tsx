import type { Stop } from "~/core/job/guards/guard";
import type { Command } from "~/core/log/entry";
import { lowerFirst } from "~/core/model/labels";
import { EntryButton } from "./entry-form";
import { StopWords } from "./stop-words";

/** What speaks against a press, before it is pressed, with what puts it right. */
export function StopNote({ stop }: { stop: Stop }) {
  return (
    <StopWords stop={stop}>
      {stop.answer === "refused" && stop.right && (
        <span className="mt-2 block text-base">
          <EntryButton body={stop.right.press}>{stop.right.say}</EntryButton>
        </span>
      )}
    </StopWords>
  );
}

/** What an answer itself says of the car, where that is no more than key, selector and brake; it stands beside it. */
export function saidWithIt(stop: Stop | null): Command[] {
  if (stop?.answer !== "asks") return [];
  const isPlain = (c: Command) => c.kind === "strip.stands" && !("battery" in c.data.sets);
  return stop.first.every(isPlain) ? stop.first : [];
}

/** The line that says it, before the answer is pressed; a note where more is asked. */
export function SaidWithIt({ stop }: { stop: Stop | null }) {
  if (!stop) return null;
  if (stop.answer !== "asks" || saidWithIt(stop).length === 0) return <StopNote stop={stop} />;
  return (
    <p className="border-l-4 border-watch pl-3">
      An answer also notes: <span className="font-medium">{lowerFirst(stop.say)}</span>.
    </p>
  );
}
