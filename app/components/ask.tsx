import { createContext, type ReactNode, useCallback, useContext, useEffect, useState } from "react";
import { useFetcher, useParams } from "react-router";
import { toast } from "sonner";
import { v7 as uuid } from "uuid";
import { later } from "~/app/lib/later";
import type { Appended } from "~/app/server/jobs.server";
import type { Stopped } from "~/core/job/decide";
import type { Command } from "~/core/log/entry";

const AskDialog = later(async () => (await import("./ask-dialog")).AskDialog, null);

/** An entry of a press as its form sends it. */
export interface PressedEntry {
  id: string;
  body: string;
}

/** A press that was not written, and why. */
interface Held {
  entries: readonly PressedEntry[];
  stop: Stopped;
}

type Answer = Exclude<Appended, { ok: true }> | { ok: true };

const AskContext = createContext<(entries: readonly PressedEntry[], answer: Answer) => void>(() => {});

/** Says what came of a press: nothing when it was written, else what the guards ask, or why it was refused. */
export function useAnswered(): (entries: readonly PressedEntry[], answer: Answer) => void {
  return useContext(AskContext);
}

/** Asks for every press below it that the car, as it stands, does not allow. */
export function AskHost({ children }: { children: ReactNode }) {
  const [held, setHeld] = useState<Held | null>(null);
  const fetcher = useFetcher<Appended>();
  const params = useParams();
  const answered = useCallback((entries: readonly PressedEntry[], answer: Answer) => {
    if (answer.ok) return setHeld(null);
    if (answer.stop) return setHeld({ entries, stop: answer.stop });
    setHeld(null);
    toast.error(answer.message, { duration: 12_000 });
  }, []);
  const [sent, setSent] = useState<readonly PressedEntry[]>([]);
  const answer = fetcher.data;
  // biome-ignore lint/correctness/useExhaustiveDependencies: an answer is answered once, to what was sent for it
  useEffect(() => {
    if (answer) answered(sent, answer);
  }, [answer]);
  const goOn = (first: readonly Command[]) => {
    if (!held) return;
    const entries = [...first.map((c) => ({ id: uuid(), body: JSON.stringify(c) })), ...held.entries];
    setSent(entries);
    const form = new FormData();
    for (const { id, body } of entries) {
      form.append("entry", id);
      form.append("body", body);
    }
    fetcher.submit(form, { method: "post", action: `/jobs/${params.job}/log` });
  };
  return (
    <AskContext value={answered}>
      {children}
      {held && <AskDialog stop={held.stop} busy={fetcher.state !== "idle"} onClose={() => setHeld(null)} goOn={goOn} />}
    </AskContext>
  );
}
