import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { X } from "lucide";
import { useState } from "react";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";
import { AddForm, type Send, SmallForm } from "./differs";

/** What the plan does not have: a step of one's own, another panel of the car, a small part to get. */
export function OwnSteps({
  others,
  maintainer,
  send,
  disabled,
}: {
  others: { id: string; title: string }[];
  maintainer: boolean;
  send: Send;
  disabled: boolean;
}) {
  const [open, setOpen] = useState<"add" | "small" | null>(null);
  const close = () => setOpen(null);
  const done: Send = (body) => {
    send(body);
    close();
  };
  return (
    <Focus kicker="What the plan of the car does not have" title="Not in the plan">
      <div className="flex flex-wrap items-center gap-2">
        <Button disabled={disabled} onClick={() => setOpen("add")}>
          Add a step
        </Button>
        <Button disabled={disabled} onClick={() => setOpen("small")}>
          Broken or lost part
        </Button>
        <EntryButton look="quiet" body={{ kind: "strip.maintainer", data: { connected: !maintainer } }}>
          {maintainer ? "Maintainer taken off" : "Maintainer connected"}
        </EntryButton>
        {others.length > 0 && (
          <details className="basis-full">
            <summary className="min-h-11 cursor-pointer py-2">Take off something else of this car</summary>
            <ul className="flex flex-wrap gap-2">
              {others.map((o) => (
                <li key={o.id}>
                  <EntryButton body={{ kind: "strip.want", data: { step: o.id, wanted: true } }}>{o.title}</EntryButton>
                </li>
              ))}
            </ul>
          </details>
        )}
        <Dialog open={open !== null} onClose={close} className="relative z-20">
          <div className="fixed inset-0 bg-ink/40" aria-hidden="true" />
          <div className="fixed inset-0 grid items-end overflow-y-auto sm:place-items-center">
            <DialogPanel className="w-full max-w-xl border-t-2 border-ink bg-paper p-4 sm:border-2 sm:p-6">
              <div className="mb-3 flex items-start justify-between gap-3">
                <DialogTitle className="text-xl font-semibold">
                  {open === "add" ? "A step of your own" : "Broken or lost part"}
                </DialogTitle>
                <Button look="quiet" aria-label="Close" onClick={close}>
                  <Icon of={X} size={22} />
                </Button>
              </div>
              {open === "add" ? <AddForm before={null} send={done} /> : <SmallForm step={null} send={done} />}
            </DialogPanel>
          </div>
        </Dialog>
      </div>
    </Focus>
  );
}
