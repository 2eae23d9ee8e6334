import { useState } from "react";
import type { useLog } from "~/app/lib/use-log";
import type { Compared, Difference } from "~/core/bus/compare";
import { idText } from "~/core/bus/identifier";
import { Focus } from "../bench/focus";
import { ScrollX } from "../controls";
import { Notice } from "../marks";
import type { BusFile } from "./log-focus";

type State =
  | { kind: "none" }
  | { kind: "reading" }
  | { kind: "done"; rows: Compared[] }
  | { kind: "failed"; message: string };

/** The log that is shown against one recorded before it: what is new, missing or different, and what that means for the job. */
export function CompareLogs({
  others,
  compare,
  names,
}: {
  others: readonly BusFile[];
  compare: ReturnType<typeof useLog>["compare"];
  names: ReadonlyMap<string, string>;
}) {
  const [before, setBefore] = useState("");
  const [state, setState] = useState<State>({ kind: "none" });
  function choose(file: string) {
    setBefore(file);
    if (file === "") return setState({ kind: "none" });
    setState({ kind: "reading" });
    compare(file)
      .then((rows) => setState({ kind: "done", rows }))
      .catch((error: Error) => setState({ kind: "failed", message: error.message }));
  }
  return (
    <Focus kicker="What is new, missing or different" title="Against a log recorded before">
      <label className="block">
        <span className="block text-sm text-quiet">Before the kit, engine off, ...</span>
        <select className="field w-auto!" value={before} onChange={(e) => choose(e.currentTarget.value)}>
          <option value="">choose a log</option>
          {others.map((o) => (
            <option key={o.file} value={o.file}>
              {o.name}
            </option>
          ))}
        </select>
      </label>
      {state.kind === "reading" && <p className="mt-3 text-quiet">Reading and comparing ...</p>}
      {state.kind === "failed" && <Notice tone="stop" title={state.message} />}
      {state.kind === "done" && state.rows.length === 0 && (
        <p className="mt-3">Nothing differs: the same messages, as often, and the same bits move.</p>
      )}
      {state.kind === "done" && state.rows.length > 0 && (
        <ScrollX label="What differs" className="mt-3 max-h-[30rem] overflow-y-auto">
          <table className="w-full min-w-[44rem]">
            <tbody>
              {state.rows.map((r) => {
                const id = idText(r.id, r.extended);
                return (
                  <tr key={`${r.channel} ${id}`} className="border-b border-rule align-top">
                    <th scope="row" className="num py-2 pr-4 text-left font-medium">
                      {r.channel} {id}
                    </th>
                    <td className="py-2 pr-4">{names.get(id) ?? <span className="text-quiet">not named</span>}</td>
                    <td className="py-2">
                      {r.differences.map((d) => {
                        const { what, means } = words(d);
                        return (
                          <p key={what}>
                            {what} <span className="text-sm text-quiet">{means}</span>
                          </p>
                        );
                      })}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </ScrollX>
      )}
    </Focus>
  );
}

function words(d: Difference): { what: string; means: string } {
  switch (d.kind) {
    case "new":
      return { what: "New.", means: "Somebody sends who was silent before: the module, or a unit that was asleep." };
    case "missing":
      return {
        what: "Missing.",
        means: "Its sender is asleep, unplugged or replaced; look for a fault code that it is missed.",
      };
    case "rate":
      return {
        what: `Every ${d.afterMs.toFixed(0)} ms, before every ${d.beforeMs.toFixed(0)} ms.`,
        means:
          d.afterMs < d.beforeMs
            ? "Faster: two senders, or a state in which it is sent more often."
            : "Slower: the sender is busy or saves power.",
      };
    case "length":
      return {
        what: `${d.after.join(", ")} bytes, before ${d.before.join(", ")}.`,
        means: "Another sender or another firmware.",
      };
    case "bits":
      return {
        what: [
          d.livelier.length > 0 ? `${places(d.livelier)} move now` : "",
          d.quieter.length > 0 ? `${places(d.quieter)} no longer move` : "",
          d.turned.length > 0 ? `${places(d.turned)} stand otherwise` : "",
        ]
          .filter((w) => w !== "")
          .join("; ")
          .concat("."),
        means: "A state that was different in the two recordings, or what the module changed.",
      };
  }
}

/** “byte 0 bits 1, 2; byte 3 bit 7”, as far as a line goes. */
function places(bits: readonly number[]): string {
  const byByte = new Map<number, number[]>();
  for (const bit of bits) byByte.set(bit >> 3, [...(byByte.get(bit >> 3) ?? []), bit & 7]);
  const parts = [...byByte].map(([byte, list]) => `byte ${byte} bit${list.length > 1 ? "s" : ""} ${list.join(", ")}`);
  return parts.length > 4 ? `${parts.slice(0, 4).join("; ")} and more` : parts.join("; ");
}
