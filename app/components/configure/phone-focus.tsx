import { Check, Eye, RotateCcw, Smartphone } from "lucide";
import { useState } from "react";
import type { PairingState } from "~/core/configure/pairing";
import { TROUBLES } from "~/core/configure/pairing-troubles";
import type { configureView } from "~/core/views/configure";
import { PHONE_FAULTS, type PhoneFault, phoneSeen } from "~/sim/phone";
import { Focus } from "../bench/focus";
import { Button, Field } from "../controls";
import { EntryButton, useAppend, useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark, Notice } from "../marks";

type PhoneView = NonNullable<ReturnType<typeof configureView>["phone"]>;

/** The first pairing of a phone, one thing after the other; what is seen instead says what to do. */
export function PhoneFocus({ view, after }: { view: PhoneView; after: string | undefined }) {
  const phone = view.phones.find((p) => p.step !== null);
  return phone ? <InHand key={phone.phone} phone={phone} view={view} /> : <Begin view={view} after={after} />;
}

function InHand({ phone, view }: { phone: PairingState; view: PhoneView }) {
  const { step, trouble, steps } = phone;
  const { job } = useJob();
  if (!step) return null;
  const press = (data: object) => ({
    kind: "configure.pairing" as const,
    data: { phone: phone.phone, ...data } as never,
  });
  return (
    <Focus
      kicker={[phone.phone, phone.family?.name].filter(Boolean).join(", ")}
      marks={trouble && <Mark tone="stop">Not as it should</Mark>}
      title={step.title}
      after={trouble ? undefined : steps.filter((s) => !s.done)[1]?.title}
      actions={
        <>
          {trouble ? (
            <EntryButton look="next" body={press({ act: "again" })} shortcut="Space">
              <Icon of={RotateCcw} size={18} /> Done, go on
            </EntryButton>
          ) : (
            <>
              <EntryButton look="next" body={press({ act: "seen", step: step.id })} shortcut="Space">
                <Icon of={Check} size={18} /> {step.seen}
              </EntryButton>
              {step.troubles.map((t, i) => (
                <EntryButton
                  key={t}
                  body={press({ act: "trouble", step: step.id, trouble: t })}
                  shortcut={i === 0 ? "n" : undefined}
                >
                  {TROUBLES[t].seen}
                </EntryButton>
              ))}
              {job.practice && <LookAtIt phone={phone} view={view} />}
            </>
          )}
          <EntryButton look="quiet" body={press({ act: "dropped" })}>
            Let this phone be
          </EntryButton>
        </>
      }
      picture={<Steps steps={steps} now={step.id} />}
    >
      {trouble ? (
        <Notice tone="stop" title={TROUBLES[trouble].title}>
          <ol className="list-decimal pl-5">
            {TROUBLES[trouble].steps.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ol>
        </Notice>
      ) : (
        <p className="text-lg">{step.detail}</p>
      )}
      {view.cannot !== null && (step.id === "session" || trouble === "noWireless") && (
        <Notice tone="watch" title="With what is connected and set now it cannot come by wireless.">
          <p>{view.cannot}</p>
        </Notice>
      )}
      {trouble && phone.met.filter((m) => m === trouble).length > 1 && (
        <p className="text-watch">
          The same again: let this phone be and try another one; then it is the phone or not.
        </p>
      )}
    </Focus>
  );
}

/** All steps of this phone; which are done is said, not only marked. */
function Steps({ steps, now }: { steps: PairingState["steps"]; now: string }) {
  return (
    <ol aria-label="Steps of the first pairing">
      {steps.map((s) => (
        <li
          key={s.id}
          aria-current={s.id === now ? "step" : undefined}
          className={`flex min-h-11 items-center gap-3 border-t border-rule py-1.5 ${s.id === now ? "font-semibold" : s.done ? "text-quiet" : ""}`}
        >
          <span className="w-24 shrink-0">
            {s.done ? <Mark tone="good">Done</Mark> : s.id === now ? <Mark tone="watch">Now</Mark> : null}
          </span>
          {s.title}
        </li>
      ))}
    </ol>
  );
}

function Begin({ view, after }: { view: PhoneView; after: string | undefined }) {
  const { phones, rules, noPower } = view;
  const [name, setName] = useState(phones.length === 0 ? "Customer's phone" : `Phone ${phones.length + 1}`);
  const kinds = [
    ...rules.families.map((f) => ({ id: f.id as string | null, name: f.name })),
    { id: null, name: "Another phone" },
  ];
  const done = phones.length > 0;
  return (
    <Focus
      kicker={rules.gives === "mirroring" ? "Phone and module" : "Phone and hands-free module"}
      marks={done && <Mark tone="good">Paired</Mark>}
      title={done ? phones.map((p) => p.phone).join(", ") : "Pair the first phone"}
      after={after}
      actions={kinds.map((k, i) => (
        <EntryButton
          key={k.name}
          look={!done && i === 0 && !noPower ? "next" : "plain"}
          disabled={noPower !== null || name.trim() === ""}
          body={{ kind: "configure.pairing", data: { phone: name.trim(), act: "begin", family: k.id } }}
          shortcut={!done && i === 0 ? "Space" : String(i + 1)}
        >
          <Icon of={Smartphone} size={18} /> {k.name}
        </EntryButton>
      ))}
    >
      {noPower && <p className="text-watch">The module has no power. {noPower}</p>}
      <div className="max-w-sm">
        <Field label={done ? "One more phone" : "Which phone"} hint="As it is called in the papers; no number">
          {(ids) => (
            <input
              {...ids}
              className="field mt-1"
              value={name}
              maxLength={40}
              onChange={(e) => setName(e.target.value)}
            />
          )}
        </Field>
      </div>
    </Focus>
  );
}

/** Practice: what the stand-in phone shows at this step. */
function LookAtIt({ phone, view }: { phone: PairingState; view: PhoneView }) {
  const { append, busy } = useAppend();
  const [fault, setFault] = useState<PhoneFault | "">("");
  return (
    <span className="flex flex-wrap items-center gap-2">
      <Button
        disabled={busy}
        onClick={() => {
          const act = phoneSeen(phone, fault || null, view.cannot);
          if (act) append({ kind: "configure.pairing", data: { phone: phone.phone, ...act } });
        }}
      >
        <Icon of={Eye} size={18} /> Look at the stand-in phone
      </Button>
      <select
        aria-label="What is wrong with the stand-in phone"
        className="field w-auto"
        value={fault}
        onChange={(e) => setFault(e.target.value as PhoneFault | "")}
      >
        <option value="">nothing is wrong with it</option>
        {Object.entries(PHONE_FAULTS).map(([id, say]) => (
          <option key={id} value={id}>
            {say}
          </option>
        ))}
      </select>
    </span>
  );
}
