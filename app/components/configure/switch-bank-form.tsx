import { Switch } from "@headlessui/react";
import { useState } from "react";
import type { SwitchBank } from "~/core/model/profile";
import { Button } from "../controls";
import { useAppend, useJob } from "../entry-form";

/** The positions as the technician finds them on the module; a press turns a switch over. */
export function SwitchBankForm({ bank, entered }: { bank: SwitchBank; entered: Record<string, string> | null }) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const initial = Object.fromEntries(
    bank.switches.map((id) => [`${bank.part}.${id}`, entered?.[`${bank.part}.${id}`] ?? bank.off]),
  );
  const [settings, setSettings] = useState(initial);
  const changed = entered === null || Object.keys(settings).some((k) => settings[k] !== entered[k]);
  return (
    <div>
      <div className="grid max-w-md grid-cols-8 gap-1">
        {bank.switches.map((id, i) => {
          const key = `${bank.part}.${id}`;
          const on = settings[key] === bank.on;
          return (
            <Switch
              key={id}
              checked={on}
              aria-label={`Switch ${i + 1}`}
              disabled={readOnly}
              onChange={(next) => setSettings({ ...settings, [key]: next ? bank.on : bank.off })}
              className="flex min-h-24 flex-col items-center justify-between rounded-[3px] border border-strong bg-raised py-1.5"
            >
              <span className="num font-semibold">{i + 1}</span>
              <span aria-hidden="true" className="flex h-9 w-5 flex-col rounded-sm border border-ink p-0.5">
                <span className={`h-4 w-full rounded-[1px] ${on ? "bg-ink" : ""}`} />
                <span className={`h-4 w-full rounded-[1px] ${on ? "" : "bg-ink"}`} />
              </span>
              <span className={`num text-sm ${on ? "font-semibold" : "text-quiet"}`}>{on ? "ON" : "off"}</span>
            </Switch>
          );
        })}
      </div>
      <div className="mt-3">
        <Button
          look={entered === null ? "next" : "plain"}
          disabled={busy || readOnly || !changed}
          onClick={() => append({ kind: "configure.switches", data: { settings } })}
        >
          {busy ? "Saving ..." : changed ? "This is how it stands" : "Saved"}
        </Button>
      </div>
    </div>
  );
}
