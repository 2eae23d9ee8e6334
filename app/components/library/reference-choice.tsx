import { Form, useSubmit } from "react-router";

/** On which radio the document is tried. */
export function ReferenceChoice({
  names,
  value,
  keep = {},
}: {
  names: { id: string; label: string }[];
  value: string;
  keep?: Record<string, string>;
}) {
  const submit = useSubmit();
  return (
    <Form onChange={(e) => submit(e.currentTarget, { replace: true, preventScrollReset: true })}>
      {Object.entries(keep).map(([k, v]) => (
        <input key={k} type="hidden" name={k} value={v} />
      ))}
      <label className="flex items-center gap-2">
        Tried on
        <select name="on" defaultValue={value} className="field w-auto! max-w-60">
          <option value="">–</option>
          {names.map((n) => (
            <option key={n.id} value={n.id}>
              {n.label}
            </option>
          ))}
        </select>
      </label>
    </Form>
  );
}
