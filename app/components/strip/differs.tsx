import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { X } from "lucide";
import { type FormEvent, type ReactNode, useState } from "react";
import { smallPhoto } from "~/app/lib/small-photo";
import type { StripBody } from "~/core/log/entry";
import type { Fastener } from "~/core/model/profile";
import type { Task } from "~/core/strip/route";
import { Button, Field } from "../controls";
import { Icon } from "../icon";

/** Sends an entry, with a photo when there is one. */
export type Send = (body: StripBody, photo?: Blob) => void;

const WAYS = [
  { id: "note", label: "Note or photo", say: "What you see, for the record and the next one." },
  { id: "other", label: "Other screws or tool", say: "Count, length or drive are not as written." },
  { id: "split", label: "Split it", say: "A part is done, the rest comes later." },
  { id: "before", label: "Something comes before", say: "A step that the plan does not have." },
  { id: "skip", label: "Leave it out", say: "Not on this car, or not needed." },
  { id: "small", label: "Broken or lost", say: "A clip or a screw to get." },
] as const;
type Way = (typeof WAYS)[number]["id"];

/** Everything by which a step can differ from the plan, each in one short form. */
export function DiffersDialog({ task, onClose, send }: { task: Task; onClose(): void; send: Send }) {
  const [way, setWay] = useState<Way | null>(null);
  const close = () => {
    setWay(null);
    onClose();
  };
  const done: Send = (body, photo) => {
    send(body, photo);
    close();
  };
  const ways = WAYS.filter((w) => task.kind !== "prepStep" || w.id === "note" || w.id === "small");
  return (
    <Dialog open onClose={close} className="relative z-20">
      <div className="fixed inset-0 bg-ink/40" aria-hidden="true" />
      <div className="fixed inset-0 grid items-end overflow-y-auto sm:place-items-center">
        <DialogPanel className="w-full max-w-xl border-t-2 border-ink bg-paper p-4 sm:border-2 sm:p-6">
          <div className="mb-3 flex items-start justify-between gap-3">
            <DialogTitle className="text-xl font-semibold">
              {way ? WAYS.find((w) => w.id === way)?.label : "How does it differ?"}
              <span className="block text-base font-normal text-quiet">{task.title}</span>
            </DialogTitle>
            <Button look="quiet" aria-label="Close" onClick={close}>
              <Icon of={X} size={22} />
            </Button>
          </div>
          {way === null && (
            <ul className="grid gap-2 sm:grid-cols-2">
              {ways.map((w) => (
                <li key={w.id}>
                  <Button className="w-full flex-col items-start! gap-0! py-2! text-left" onClick={() => setWay(w.id)}>
                    <span className="font-medium">{w.label}</span>
                    <span className="text-sm text-quiet">{w.say}</span>
                  </Button>
                </li>
              ))}
            </ul>
          )}
          {way === "note" && <NoteForm task={task} send={done} />}
          {way === "other" && <OtherForm task={task} send={done} />}
          {way === "split" && <SplitForm task={task} send={done} />}
          {way === "before" && <AddForm before={task.id} send={done} />}
          {way === "skip" && <SkipForm task={task} send={done} />}
          {way === "small" && <SmallForm step={task.kind === "prepStep" ? null : task.id} send={done} />}
        </DialogPanel>
      </div>
    </Dialog>
  );
}

function Form({ onSubmit, word, children }: { onSubmit(data: FormData): void; word: string; children: ReactNode }) {
  return (
    <form
      className="space-y-3"
      onSubmit={(e: FormEvent<HTMLFormElement>) => {
        e.preventDefault();
        onSubmit(new FormData(e.currentTarget));
      }}
    >
      {children}
      <Button type="submit" look="next" className="min-h-14! w-full">
        {word}
      </Button>
    </form>
  );
}

const text = (data: FormData, name: string) => String(data.get(name) ?? "").trim();

function NoteForm({ task, send }: { task: Task; send: Send }) {
  const [photo, setPhoto] = useState<{ blob: Blob; url: string } | null>(null);
  const [empty, setEmpty] = useState(false);
  return (
    <Form
      word="Keep the note"
      onSubmit={(data) => {
        const note = text(data, "note");
        if (note === "" && !photo) return setEmpty(true);
        send({ kind: "strip.note", data: { step: task.id, note } }, photo?.blob);
      }}
    >
      <Field
        label="Note"
        hint="The microphone of the tablet's keyboard takes it by voice."
        {...(empty ? { errors: ["Write a note or take a photo."] } : {})}
      >
        {(ids) => <textarea {...ids} name="note" rows={3} maxLength={1000} className="field mt-1" />}
      </Field>
      <label className="flex min-h-14 cursor-pointer items-center justify-center gap-2 border border-strong bg-raised px-4 focus-within:outline-3 focus-within:outline-accent">
        {photo ? "Take another photo" : "Take a photo"}
        <input
          type="file"
          accept="image/*"
          capture="environment"
          className="sr-only"
          onChange={async (e) => {
            const file = e.currentTarget.files?.[0];
            if (!file) return;
            const blob = await smallPhoto(file);
            setPhoto({ blob, url: URL.createObjectURL(blob) });
          }}
        />
      </label>
      {photo && <img src={photo.url} alt="As it will be kept" className="max-h-48" />}
    </Form>
  );
}

function OtherForm({ task, send }: { task: Task; send: Send }) {
  const fasteners = task.step?.fasteners ?? [];
  return (
    <Form
      word="Keep it"
      onSubmit={(data) => {
        const tool = text(data, "tool");
        const changed = fasteners.flatMap((f, group) => {
          const count = Number(text(data, `count${group}`) || Number.NaN);
          const lengthMm = Number(text(data, `length${group}`).replace(",", ".") || Number.NaN);
          const other = {
            ...(Number.isFinite(count) && count !== f.count ? { count } : {}),
            ...(lengthMm > 0 && lengthMm !== f.lengthMm ? { lengthMm } : {}),
          };
          return Object.keys(other).length > 0 ? [{ group, ...other }] : [];
        });
        send({
          kind: "strip.note",
          data: {
            step: task.id,
            note: text(data, "note"),
            differs: {
              ...(tool !== "" && tool !== task.tool ? { tool } : {}),
              ...(changed.length > 0 ? { fasteners: changed } : {}),
            },
          },
        });
      }}
    >
      <Field label="Tool">
        {(ids) => <input {...ids} name="tool" defaultValue={task.tool} maxLength={80} className="field mt-1" />}
      </Field>
      {fasteners.map((f, group) => (
        <fieldset key={`${f.kind}-${f.tray}`} className="grid grid-cols-2 gap-3">
          <legend className="font-medium">
            {f.kind}, tray {f.tray}
          </legend>
          <Field label="Count">
            {(ids) => (
              <input
                {...ids}
                name={`count${group}`}
                inputMode="numeric"
                pattern="[0-9]{1,3}"
                defaultValue={f.count}
                className="field mt-1"
              />
            )}
          </Field>
          <Field label="Length, mm">
            {(ids) => (
              <input
                {...ids}
                name={`length${group}`}
                inputMode="decimal"
                pattern="[0-9]{1,3}([.,][0-9])?"
                defaultValue={f.lengthMm}
                className="field mt-1"
              />
            )}
          </Field>
        </fieldset>
      ))}
      <Field label="Note">{(ids) => <input {...ids} name="note" maxLength={1000} className="field mt-1" />}</Field>
    </Form>
  );
}

function SplitForm({ task, send }: { task: Task; send: Send }) {
  return (
    <Form
      word="Split it"
      onSubmit={(data) =>
        send({ kind: "strip.split", data: { step: task.id, parts: [text(data, "first"), text(data, "rest")] } })
      }
    >
      <Field label="First part" hint="The screws belong to it.">
        {(ids) => (
          <input
            {...ids}
            name="first"
            required
            maxLength={200}
            defaultValue={`Loosen: ${task.title}`}
            className="field mt-1"
          />
        )}
      </Field>
      <Field label="Rest" hint="What comes off and the plugs belong to it.">
        {(ids) => (
          <input {...ids} name="rest" required maxLength={200} defaultValue={task.title} className="field mt-1" />
        )}
      </Field>
    </Form>
  );
}

/** A step that the plan does not have. */
export function AddForm({ before, send }: { before: string | null; send: Send }) {
  return (
    <Form
      word="Add the step"
      onSubmit={(data) => {
        const tool = text(data, "tool");
        const panel = text(data, "panel");
        const count = Number(text(data, "count") || 0);
        const lengthMm = Number(text(data, "length").replace(",", "."));
        const fastener: Fastener = {
          kind: text(data, "fastener") || "screw",
          count,
          tray: text(data, "tray") || "X",
          ...(lengthMm > 0 ? { lengthMm } : {}),
        };
        send({
          kind: "strip.add",
          data: {
            id: `own-${crypto.randomUUID().slice(0, 8)}`,
            before,
            title: text(data, "title"),
            detail: "",
            ...(tool ? { tool } : {}),
            ...(panel ? { panel } : {}),
            ...(count > 0 ? { fasteners: [fastener] } : {}),
          },
        });
      }}
    >
      <Field label="What to do">
        {(ids) => <input {...ids} name="title" required maxLength={200} className="field mt-1" />}
      </Field>
      <div className="grid grid-cols-2 gap-3">
        <Field label="Tool">{(ids) => <input {...ids} name="tool" maxLength={80} className="field mt-1" />}</Field>
        <Field label="Comes off" hint="Empty when nothing comes off.">
          {(ids) => <input {...ids} name="panel" maxLength={80} className="field mt-1" />}
        </Field>
      </div>
      <fieldset className="grid grid-cols-4 gap-3">
        <legend className="col-span-4 font-medium">Screws, if any</legend>
        <Field label="Count">
          {(ids) => <input {...ids} name="count" inputMode="numeric" pattern="[0-9]{1,3}" className="field mt-1" />}
        </Field>
        <Field label="Kind">{(ids) => <input {...ids} name="fastener" maxLength={80} className="field mt-1" />}</Field>
        <Field label="mm">
          {(ids) => (
            <input {...ids} name="length" inputMode="decimal" pattern="[0-9]{1,3}([.,][0-9])?" className="field mt-1" />
          )}
        </Field>
        <Field label="Tray">{(ids) => <input {...ids} name="tray" maxLength={12} className="field mt-1" />}</Field>
      </fieldset>
    </Form>
  );
}

function SkipForm({ task, send }: { task: Task; send: Send }) {
  return (
    <Form
      word="Leave it out"
      onSubmit={(data) => send({ kind: "strip.skip", data: { step: task.id, reason: text(data, "reason") } })}
    >
      <Field label="Reason" hint="It stands in the record and in the suggestions for the plan.">
        {(ids) => <input {...ids} name="reason" required minLength={3} maxLength={500} className="field mt-1" />}
      </Field>
    </Form>
  );
}

/** A broken clip or a lost screw becomes a line on the list of small parts. */
export function SmallForm({ step, send }: { step: string | null; send: Send }) {
  return (
    <Form
      word="Put it on the list"
      onSubmit={(data) =>
        send({
          kind: "strip.small",
          data: {
            step,
            what: text(data, "what"),
            state: text(data, "state") === "broken" ? "broken" : "lost",
            count: Number(text(data, "count")) || 1,
          },
        })
      }
    >
      <Field label="What" hint="For example: clip of the vent panel.">
        {(ids) => <input {...ids} name="what" required maxLength={200} className="field mt-1" />}
      </Field>
      <div className="grid grid-cols-2 gap-3">
        <Field label="How many">
          {(ids) => (
            <input
              {...ids}
              name="count"
              inputMode="numeric"
              pattern="[0-9]{1,3}"
              defaultValue="1"
              className="field mt-1"
            />
          )}
        </Field>
        <Field label="State">
          {(ids) => (
            <select {...ids} name="state" className="field mt-1">
              <option value="broken">Broken</option>
              <option value="lost">Lost</option>
            </select>
          )}
        </Field>
      </div>
    </Form>
  );
}
