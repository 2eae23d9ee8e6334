import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { Check, OctagonAlert, TriangleAlert } from "lucide";
import { useState } from "react";
import type { Stopped } from "~/core/job/decide";
import type { Command } from "~/core/log/entry";
import { Button } from "./controls";
import { EntryButton } from "./entry-form";
import { Icon } from "./icon";

/** What a guard says to a press: one tap that sets the car right and goes on, a reason, or the way to put it right. */
export function AskDialog({
  stop,
  busy,
  onClose,
  goOn,
}: {
  stop: Stopped;
  busy: boolean;
  onClose(): void;
  /** Writes these first, then the press. */
  goOn(first: readonly Command[]): void;
}) {
  const [reason, setReason] = useState("");
  const refused = stop.answer === "refused";
  return (
    <Dialog open onClose={onClose} className="relative z-30">
      <div className="fixed inset-0 bg-ink/40" aria-hidden="true" />
      <div className="fixed inset-0 grid items-end overflow-y-auto sm:place-items-center">
        <DialogPanel className="w-full max-w-xl border-t-2 border-ink bg-paper p-4 sm:border-2 sm:p-6">
          <DialogTitle className={`flex items-start gap-3 text-xl font-semibold ${refused ? "text-stop" : ""}`}>
            <Icon of={refused ? OctagonAlert : TriangleAlert} size={26} className="mt-0.5 shrink-0" />
            <span>
              <span className="sr-only">{refused ? "Stop: " : "Before it is noted: "}</span>
              {stop.problem}
            </span>
          </DialogTitle>
          <p className="mt-3 text-lg">{stop.remedy}</p>
          {stop.answer === "reason" && (
            <label className="mt-3 block">
              <span className="font-medium">Why all the same? It is kept with your name.</span>
              <textarea
                className="field mt-1 min-h-20 w-full"
                maxLength={500}
                value={reason}
                onChange={(e) => setReason(e.currentTarget.value)}
              />
            </label>
          )}
          <div className="mt-5 flex flex-wrap gap-2">
            {stop.answer === "asks" && (
              <Button look="next" className="min-h-14! flex-1 text-lg" disabled={busy} onClick={() => goOn(stop.first)}>
                <Icon of={Check} size={22} /> {stop.say}: go on
              </Button>
            )}
            {stop.answer === "reason" && (
              <Button
                look="next"
                className="min-h-14! flex-1 text-lg"
                disabled={busy || reason.trim().length < 3}
                onClick={() =>
                  goOn([
                    {
                      kind: "despite",
                      data: { entry: stop.entry, guard: stop.guard, reason: reason.trim() },
                    },
                  ])
                }
              >
                Go on with this reason
              </Button>
            )}
            {stop.answer === "refused" && stop.right && (
              <EntryButton body={stop.right.press} className="min-h-14! flex-1">
                {stop.right.say}
              </EntryButton>
            )}
            <Button className="min-h-14!" onClick={onClose}>
              {refused ? "Close" : "Not now"}
            </Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
