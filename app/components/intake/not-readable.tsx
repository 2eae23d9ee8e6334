import type { Unread } from "~/core/log/kinds/intake/unread";
import { Button } from "../controls";
import { useAppend, useJob } from "../entry-form";

/** Why it usually cannot be read; the button says it, so that one tap is enough. */
const WHY: Readonly<Record<Unread, string>> = {
  identification: "Plate cannot be read",
  firmware: "Not shown before the radio is out",
  faultCodes: "No tester at hand",
};

/** One tap where something of the car cannot be read: nobody is asked for it again. */
export function NotReadable({
  what,
  unread,
  empty,
}: {
  what: Unread;
  unread: readonly { what: Unread; reason: string; entry: string }[];
  /** Nothing stands in the field. */
  empty: boolean;
}) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const said = unread.find((u) => u.what === what);
  if (!empty) return null;
  if (said)
    return (
      <p className="flex flex-wrap items-center gap-x-3 text-quiet">
        {said.reason}
        <Button
          look="quiet"
          disabled={busy || readOnly}
          onClick={() => append({ kind: "undo", data: { entry: said.entry } })}
        >
          Undo
        </Button>
      </p>
    );
  return (
    <Button
      look="quiet"
      className="px-0!"
      disabled={busy || readOnly}
      onClick={() => append({ kind: "intake.unread", data: { what, reason: WHY[what] } })}
    >
      {WHY[what]}
    </Button>
  );
}
