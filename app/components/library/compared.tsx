import { useState } from "react";
import { useSubmit } from "react-router";
import type { Incoming } from "~/db/exchange";
import { Button } from "../controls";
import { Mark } from "../marks";

/** The file that was chosen stays in its field: it is sent again with what was ticked. */
export const FILE_ID = "profile-file";

const STATES = { new: ["good", "New"], same: ["none", "The same here"], differs: ["watch", "Differs"] } as const;

/** What a file would bring, against what the shop has: nothing is stored before somebody has ticked it. */
export function Compared({ list }: { list: readonly Incoming[] }) {
  const submit = useSubmit();
  const open = list.filter((p) => p.state !== "same");
  const [taken, setTaken] = useState<ReadonlySet<string>>(
    new Set(open.filter((p) => p.state === "new").map((p) => p.key)),
  );
  const [done, setDone] = useState(false);
  const [lost, setLost] = useState(false);
  if (done) return null;
  const take = () => {
    const file = document.querySelector<HTMLInputElement>(`#${FILE_ID}`)?.files?.[0];
    setLost(!file);
    if (!file) return;
    const form = new FormData();
    form.set("file", file);
    for (const p of open)
      if (taken.has(p.key)) {
        form.append("take", p.key);
        form.append("seen", `${p.key} ${p.ours}`);
      }
    submit(form, { method: "post", encType: "multipart/form-data" });
  };
  return (
    <section aria-labelledby="compared" className="mb-6 border-2 border-ink p-4">
      <h2 id="compared">Before anything is taken over</h2>
      <p className="text-quiet">
        <span className="num">{list.length - open.length}</span> of <span className="num">{list.length}</span> are here
        just so. Nothing is stored yet; what you take becomes a new version, the one you have stays.
      </p>
      <ul className="mt-3">
        {open.map((p) => (
          <li key={p.key} className="border-t border-rule py-2">
            <label className="flex min-h-11 cursor-pointer items-center gap-3">
              <input
                type="checkbox"
                className="size-5 shrink-0 accent-[var(--ink)]"
                checked={taken.has(p.key)}
                onChange={(e) => {
                  const next = new Set(taken);
                  if (e.currentTarget.checked) next.add(p.key);
                  else next.delete(p.key);
                  setTaken(next);
                }}
              />
              <span className="min-w-0 flex-1">
                <span className="font-medium">{p.title}</span>{" "}
                {p.from && (
                  <span className="text-quiet">
                    {p.from.shop}, {p.from.by},{" "}
                    {p.from.closedJobs === 0 ? "not tried there" : `${p.from.closedJobs} jobs there`}
                  </span>
                )}
              </span>
              <Mark tone={STATES[p.state][0]}>{STATES[p.state][1]}</Mark>
            </label>
            {p.differences.length > 0 && (
              <details className="pl-8">
                <summary className="min-h-11 cursor-pointer py-2.5">
                  {p.differences.length + p.more} fields differ from your version {p.ours}
                </summary>
                <ul className="text-sm">
                  {p.differences.map((d) => (
                    <li key={d.path} className="border-t border-rule py-1">
                      <span className="text-quiet">{d.path}:</span> {d.before || "nothing"} → {d.after || "nothing"}
                    </li>
                  ))}
                </ul>
                {p.more > 0 && <p className="text-sm text-quiet">and {p.more} more</p>}
              </details>
            )}
          </li>
        ))}
      </ul>
      {lost && (
        <p role="alert" className="mt-2 text-stop">
          The file is no longer in its field. Choose it again and press “Import”; nothing was stored.
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <Button look="next" disabled={taken.size === 0} onClick={take}>
          Take over {taken.size} of {open.length}
        </Button>
        <Button look="quiet" onClick={() => setDone(true)}>
          Take nothing
        </Button>
      </div>
    </section>
  );
}
