import { format } from "date-fns";
import { useState } from "react";
import { useMoney } from "~/app/lib/money";
import type { Offer } from "~/core/fit/offer";
import type { Signature } from "~/core/job/signature";
import type { JobState } from "~/core/log/entry";
import { Focus } from "../bench/focus";
import { Button, Field } from "../controls";
import { useAppend, useJob } from "../entry-form";
import { Mark, Notice } from "../marks";

/** The customer's word for the offer: who signed which kit with which choices, and at what price. */
export function SignOffer({
  offer,
  signed,
  signature,
  confirmed,
}: {
  offer: Offer;
  signed: JobState["signed"];
  signature: Signature;
  confirmed: boolean;
}) {
  const [name, setName] = useState("");
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const price = useMoney();
  const same = signature === "counts";
  return (
    <Focus kicker={`${offer.title}, ${price(offer.needs.price)}`} title="The customer's word">
      {signed && (
        <p className="mb-3 flex flex-wrap items-center gap-2">
          <Mark tone={same ? "good" : "watch"}>{same ? "Signed" : "Signed for other choices"}</Mark>
          {signed.value.name}, {format(new Date(signed.at), "d MMM yyyy HH:mm")}, price{" "}
          <span className="num">{price(signed.value.price)}</span>, noted by {signed.by}
        </p>
      )}
      {!same && !confirmed && (
        <Notice tone="none">Confirm kit and choices first; the signature is for just these.</Notice>
      )}
      {!same && confirmed && (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            if (name.trim() === "") return;
            append({
              kind: "fit.signed",
              data: { name: name.trim(), kit: offer.pin, choices: { ...offer.choices } },
            });
          }}
        >
          <div className="min-w-64">
            <Field label="Name of the person who signed the offer">
              {(ids) => (
                <input
                  {...ids}
                  className="field mt-1"
                  value={name}
                  maxLength={120}
                  onChange={(e) => setName(e.currentTarget.value)}
                />
              )}
            </Field>
          </div>
          <Button type="submit" look="next" disabled={busy || readOnly || name.trim() === ""}>
            {busy ? "Saving ..." : "Signed"}
          </Button>
        </form>
      )}
    </Focus>
  );
}
