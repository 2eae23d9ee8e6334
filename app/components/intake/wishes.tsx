import { Section } from "../controls";
import { useAppend, useJob } from "../entry-form";

/** What the customer wants, as functions and not as products. */
export function Wishes({ wishes }: { wishes: { id: string; name: string; wanted: boolean }[] }) {
  const { append, busy, pending } = useAppend();
  const { readOnly } = useJob();
  const shown =
    pending?.kind === "intake.wishes" ? pending.data.functions : wishes.filter((w) => w.wanted).map((w) => w.id);
  if (wishes.length === 0) return null;
  return (
    <Section
      title="What the customer wants"
      id="wishes"
      aside={busy ? "Saving ..." : `${shown.length} of ${wishes.length}`}
    >
      <div className="grid gap-x-6 sm:grid-cols-2 lg:grid-cols-3">
        {wishes.map((w) => (
          <label key={w.id} className="flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              className="size-5 accent-[var(--ink)]"
              checked={shown.includes(w.id)}
              disabled={readOnly}
              onChange={(e) => {
                const functions = e.currentTarget.checked ? [...shown, w.id] : shown.filter((id) => id !== w.id);
                append({ kind: "intake.wishes", data: { functions } });
              }}
            />
            {w.name}
          </label>
        ))}
      </div>
    </Section>
  );
}
