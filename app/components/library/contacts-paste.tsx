import { ClipboardPaste } from "lucide";
import { useId, useState } from "react";
import { readContacts } from "~/core/library/contacts-table";
import { STANDARD_PLUGS } from "~/core/library/standard-plugs";
import type { Contact } from "~/core/model/types";
import { Button } from "../controls";
import { Icon } from "../icon";

/** Contacts from a table copied out of a leaflet or a spreadsheet. */
export function ContactsPaste({ onRead }: { onRead: (contacts: Contact[]) => void }) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const id = useId();
  const read = readContacts(text);
  if (!open)
    return (
      <Button look="quiet" className="px-2!" onClick={() => setOpen(true)}>
        <Icon of={ClipboardPaste} size={16} /> Paste a table
      </Button>
    );
  return (
    <div className="w-full">
      <label htmlFor={id} className="block font-medium">
        Table of contacts
      </label>
      <p className="text-sm text-quiet">Number, kind, direction, function, wire colour, tracer; one contact a line.</p>
      <textarea
        id={id}
        rows={4}
        className="field num mt-1 text-sm"
        value={text}
        placeholder={"1;battery;in;steady feed;red\n2;ground;in;;black"}
        onChange={(e) => setText(e.currentTarget.value)}
      />
      <p className="mt-1 flex flex-wrap items-center gap-1">
        <span className="text-sm text-quiet">Or a standard plug:</span>
        {STANDARD_PLUGS.map((p) => (
          <Button
            key={p.id}
            look="quiet"
            className="px-2! text-sm"
            onClick={() => {
              onRead(p.contacts);
              setOpen(false);
            }}
          >
            {p.name}
          </Button>
        ))}
      </p>
      {text.trim() !== "" && (
        <div aria-live="polite" className="text-sm">
          <p>
            <span className="num">{read.contacts.length}</span> contacts read
          </p>
          {read.problems.map((p) => (
            <p key={p.row} className="text-stop">
              Row <span className="num">{p.row}</span>: {p.problem}
            </p>
          ))}
        </div>
      )}
      <div className="mt-2 flex gap-2">
        <Button
          disabled={read.contacts.length === 0}
          onClick={() => {
            onRead(read.contacts);
            setText("");
            setOpen(false);
          }}
        >
          Take over {read.contacts.length} contacts
        </Button>
        <Button look="quiet" onClick={() => setOpen(false)}>
          Cancel
        </Button>
      </div>
    </div>
  );
}
