import { Fragment, type ReactNode, useEffect, useRef } from "react";
import { useFetcher, useParams, useRouteLoaderData } from "react-router";
import type { Appended, JobOverview } from "~/app/server/jobs.server";
import { entryId } from "~/core/job/entry-id";
import type { Command } from "~/core/log/entry";
import { type PressedEntry, useAnswered } from "./ask";
import { Button } from "./controls";

/** The overview of the job whose page this is. */
export function useJob() {
  const job = useRouteLoaderData<JobOverview>("routes/jobs/layout");
  if (!job) throw new Error("useJob is for pages of a job");
  return job;
}

/**
 * Appends an entry to the job log. The identifier is made from the page's seed and the entry itself: pressing twice
 * gives one entry. `busy` is true while it is on its way.
 */
export function useAppend(): { append(body: Command): void; busy: boolean } {
  const fetcher = useFetcher<Appended>();
  const params = useParams();
  const { seed } = useJob();
  const sent = useRef<readonly PressedEntry[]>([]);
  useAnswer(fetcher.data, () => sent.current);
  return {
    append(body) {
      const text = JSON.stringify(body);
      const entry = { id: entryId(seed, text), body: text };
      sent.current = [entry];
      fetcher.submit({ entry: entry.id, body: text }, { method: "post", action: `/jobs/${params.job}/log` });
    },
    busy: fetcher.state !== "idle",
  };
}

/** Says once what came of a press. */
function useAnswer(answer: Appended | undefined, pressed: () => readonly PressedEntry[]): void {
  const answered = useAnswered();
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer is answered once
  useEffect(() => {
    if (answer) answered(pressed(), answer);
  }, [answer]);
}

/** One button that appends its entries, most often one; works without client script as a plain form, too. */
export function EntryButton({
  body,
  look,
  children,
  disabled,
  pressed,
  label,
  shortcut,
  className,
}: {
  body: Command | readonly Command[];
  look?: "next" | "plain" | "quiet";
  children: ReactNode;
  disabled?: boolean;
  pressed?: boolean;
  label?: string;
  /** Key that presses it on a bench, as KeyboardEvent names it; "Space" for the likely button of what is in hand. */
  shortcut?: string;
  className?: string;
}) {
  const fetcher = useFetcher<Appended>();
  const params = useParams();
  const { seed, readOnly } = useJob();
  const texts = [body].flat().map((b) => JSON.stringify(b));
  useAnswer(fetcher.data, () => texts.map((text) => ({ id: entryId(seed, text), body: text })));
  return (
    <fetcher.Form method="post" action={`/jobs/${params.job}/log`} className="contents">
      {texts.map((text) => (
        <Fragment key={text}>
          <input type="hidden" name="entry" value={entryId(seed, text)} />
          <input type="hidden" name="body" value={text} />
        </Fragment>
      ))}
      <Button
        type="submit"
        look={look}
        disabled={disabled || readOnly}
        aria-pressed={pressed}
        aria-label={label}
        aria-keyshortcuts={shortcut}
        aria-busy={fetcher.state !== "idle"}
        className={className}
      >
        {children}
      </Button>
    </fetcher.Form>
  );
}
