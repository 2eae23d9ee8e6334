import { Form, useSubmit } from "react-router";
import type { connectView } from "~/core/views/connect";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { LaneDrawing } from "./lane-drawing";
import { SituationForm } from "./situation-form";

type View = ReturnType<typeof connectView>;

/** The way of a function's signal from its source to where a person sees or hears it, in any situation. */
export function SignalPath({ works, lane, chosen, situation }: Pick<View, "works" | "lane" | "chosen" | "situation">) {
  const submit = useSubmit();
  return (
    <Focus kicker={lane ? `Ends at: ${lane.ends}` : "No function to draw"} title="Signal path">
      <Form
        onChange={(e) => submit(e.currentTarget, { replace: true, preventScrollReset: true })}
        preventScrollReset
        className="mb-4"
      >
        <input type="hidden" name="at" value="lane" />
        <input type="hidden" name="of" value={chosen} />
        <label className="block">
          <span className="font-medium">Function</span>
          <select name="lane" defaultValue={chosen} key={chosen} className="field mt-1">
            {works.map((w) => (
              <option key={w.id} value={w.id}>
                {w.name}, {w.label} {w.works ? "" : "– not yet"}
              </option>
            ))}
          </select>
        </label>
        {situation && <SituationForm now={situation} />}
        <noscript>
          <Button type="submit">Draw</Button>
        </noscript>
      </Form>
      {lane && <LaneDrawing lane={lane} />}
    </Focus>
  );
}
