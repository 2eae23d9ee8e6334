import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { Button } from "../controls";

/** The keys of a surface with what each does. */
export function KeysDialog({ keys, onClose }: { keys: readonly [string, string][]; onClose(): void }) {
  return (
    <Dialog open onClose={onClose} className="relative z-40">
      <div className="fixed inset-0 bg-black/40" aria-hidden="true" />
      <div className="fixed inset-0 grid place-items-center p-4">
        <DialogPanel className="max-h-full w-full max-w-lg overflow-y-auto border border-strong bg-raised p-5">
          <DialogTitle className="mb-3 text-lg font-semibold">Keys here</DialogTitle>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
            {keys.map(([key, what]) => (
              <div key={key + what} className="contents">
                <dt>
                  <kbd className="num rounded-[3px] border border-strong px-2">{key}</kbd>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <Button className="mt-4" onClick={onClose}>
            Close
          </Button>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
