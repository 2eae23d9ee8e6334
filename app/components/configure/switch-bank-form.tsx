import { useState } from "react";
import { later } from "~/app/lib/later";
import type { SwitchBank } from "~/core/model/profile";
import { Button } from "../controls";
import { useAppend, useJob } from "../entry-form";

/** Few read the bank from a photo; its arithmetic comes when the page stands. */
const BankPhoto = later(async () => (await import("./bank-photo")).BankPhoto, null);

/** The positions as the technician finds them on the module. One that nobody has looked at is not known. */
export function SwitchBankForm({
  bank,
  entered,
  must,
}: {
  bank: SwitchBank;
  entered: Record<string, string> | null;
  /** As it must stand, where that is known. */
  must: Record<string, string> | null;
}) {
  const { append, busy } = useAppend();
  const { readOnly, next } = useJob();
  const isNext = next.stage === "configure";
  const keys = bank.switches.map((id) => `${bank.part}.${id}`);
  const [settings, setSettings] = useState<Record<string, string>>(entered ?? {});
  const open = keys.filter((key) => settings[key] === undefined).length;
  const changed = entered === null || keys.some((k) => settings[k] !== entered[k]);
  const log = (positions: Record<string, string>) =>
    append({ kind: "configure.switches", data: { settings: positions } });
  return (
    <div>
      <div className="grid max-w-md grid-cols-8 gap-1">
        {keys.map((key, i) => (
          <Lever
            key={key}
            number={i + 1}
            on={settings[key] === undefined ? null : settings[key] === bank.on}
            disabled={readOnly}
            onChange={(on) => setSettings({ ...settings, [key]: on ? bank.on : bank.off })}
          />
        ))}
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        {must && entered === null && open === keys.length && (
          <Button look={isNext ? "next" : "plain"} disabled={busy || readOnly} onClick={() => log(must)}>
            It stands as it must
          </Button>
        )}
        <Button
          look={isNext && entered === null && open === 0 ? "next" : "plain"}
          disabled={busy || readOnly || !changed || open > 0}
          onClick={() => log(settings)}
        >
          {busy ? "Saving ..." : changed ? "This is how it stands" : "Saved"}
        </Button>
      </div>
      {open > 0 && (
        <p className="mt-2 text-quiet">
          {open === keys.length
            ? "Press each switch until it shows how it stands on the module."
            : `Not looked at yet: ${keys.flatMap((key, i) => (settings[key] === undefined ? [i + 1] : [])).join(", ")}.`}
        </p>
      )}
      {!readOnly && <BankPhoto bank={bank} onRead={setSettings} />}
    </div>
  );
}

function Lever({
  number,
  on,
  disabled,
  onChange,
}: {
  number: number;
  /** Null while nobody has looked. */
  on: boolean | null;
  disabled: boolean;
  onChange(on: boolean): void;
}) {
  return (
    <button
      type="button"
      role="switch"
      aria-checked={on ?? false}
      aria-label={`Switch ${number}${on === null ? ", not known" : ""}`}
      disabled={disabled}
      onClick={() => onChange(on === null ? false : !on)}
      className={`flex min-h-24 flex-col items-center justify-between rounded-[3px] border bg-raised py-1.5 ${
        on === null ? "border-dashed border-strong" : "border-strong"
      }`}
    >
      <span className="num font-semibold">{number}</span>
      <span aria-hidden="true" className="flex h-9 w-5 flex-col rounded-sm border border-ink p-0.5">
        <span className={`h-4 w-full rounded-[1px] ${on === true ? "bg-ink" : ""}`} />
        <span className={`h-4 w-full rounded-[1px] ${on === false ? "bg-ink" : ""}`} />
      </span>
      <span className={`num text-sm ${on ? "font-semibold" : "text-quiet"}`}>
        {on === null ? "?" : on ? "ON" : "off"}
      </span>
    </button>
  );
}
