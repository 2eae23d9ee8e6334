import { useAppend, useJob } from "../entry-form";

/** Where each part of the kit lies; a change is kept at once, and lengths, warnings and behaviour follow. */
export function Places({ parts, places }: { parts: { id: string; name: string; place: string }[]; places: string[] }) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  return (
    <ul className="grid gap-3 sm:grid-cols-2">
      {parts.map((p) => (
        <li key={p.id}>
          <label className="block">
            <span className="font-medium">{p.name}</span>
            <select
              className="field mt-1"
              value={p.place}
              disabled={busy || readOnly}
              onChange={(e) => append({ kind: "connect.place", data: { part: p.id, place: e.currentTarget.value } })}
            >
              {[...new Set([p.place, ...places])].map((name) => (
                <option key={name} value={name}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        </li>
      ))}
    </ul>
  );
}
