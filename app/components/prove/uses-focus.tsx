import { Check, X } from "lucide";
import { useState } from "react";
import { CLICKS, KNOB } from "~/core/job/uses";
import { upperFirst } from "~/core/model/labels";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";
import { Mark } from "../marks";

export type ShownUse = ReturnType<typeof proveView>["uses"][number];

/** Keys or signs, one after the other by a tap each; the whole table below. */
export function UsesFocus({
  name,
  uses,
  after,
}: {
  name: string;
  uses: readonly ShownUse[];
  after: string | undefined;
}) {
  const [picked, setPicked] = useState<string | null>(null);
  const now = uses.find((u) => u.id === picked) ?? uses.find((u) => u.tried === null);
  const wrong = uses.filter((u) => u.tried?.works === false).length;
  const done = uses.filter((u) => u.tried !== null).length;
  return (
    <Focus
      kicker={`${name}, ${done} of ${uses.length} tried`}
      marks={
        wrong > 0 ? (
          <Mark tone="stop">{wrong} not right</Mark>
        ) : (
          done === uses.length && <Mark tone="good">All right</Mark>
        )
      }
      title={now ? now.say : wrong > 0 ? "Not everything does what it must" : "Everything does what it must"}
      after={after}
      actions={
        now && (
          <span className="contents" onClickCapture={() => setPicked(null)}>
            <EntryButton look="next" body={{ kind: "prove.use", data: { use: now.id, works: true } }} shortcut="Space">
              <Icon of={Check} size={18} /> As it must be
            </EntryButton>
            <EntryButton body={{ kind: "prove.use", data: { use: now.id, works: false } }} shortcut="2">
              <Icon of={X} size={18} /> Otherwise
            </EntryButton>
          </span>
        )
      }
      picture={
        <ul className="max-w-xl border-t border-rule">
          {uses.map((u) => (
            <li key={u.id} className="border-b border-rule">
              <button
                type="button"
                onClick={() => setPicked(u.id)}
                aria-current={u === now ? "true" : undefined}
                className={`flex min-h-12 w-full items-center justify-between gap-3 py-1 text-left ${u === now ? "font-semibold" : ""}`}
              >
                <span>
                  {u.title}
                  <span className="block text-sm font-normal text-quiet">
                    {u.mode} picture{u.tried?.steps !== undefined && `, ${u.tried.steps} steps`}
                  </span>
                </span>
                {u.tried === null ? (
                  <span className="whitespace-nowrap text-sm font-normal text-quiet">not tried</span>
                ) : (
                  <Mark tone={u.tried.works ? "good" : "stop"}>{u.tried.works ? "Right" : "Otherwise"}</Mark>
                )}
              </button>
            </li>
          ))}
        </ul>
      }
    >
      {now && (
        <>
          <p className="text-lg">
            Expected: <span className="font-semibold">{now.must.join("; ")}</span>
          </p>
          {now.must.length > 1 && <p className="text-watch">Two meanings of one key: both happen at once.</p>}
          {now.id.startsWith(`${KNOB}/`) && <KnobSteps key={now.id} use={now.id} />}
        </>
      )}
    </Focus>
  );
}

/** Steps of the shown level while the knob is turned by its clicks; downwards with a minus. */
function KnobSteps({ use }: { use: string }) {
  const [steps, setSteps] = useState("");
  const counted = steps.trim() === "" ? null : Number(steps);
  const sure = counted !== null && Number.isInteger(counted) && Math.abs(counted) <= 100;
  return (
    <div className="flex flex-wrap items-end gap-3">
      <label className="block">
        <span className="block text-sm">{CLICKS} clicks to the right: steps up (minus: down)</span>
        <input
          type="number"
          step={1}
          className="field num w-28!"
          value={steps}
          onChange={(e) => setSteps(e.currentTarget.value)}
        />
      </label>
      {sure && (
        <EntryButton body={{ kind: "prove.use", data: { use, works: counted === CLICKS, steps: counted } }}>
          {upperFirst(knobWords(counted))}
        </EntryButton>
      )}
      {!sure && steps !== "" && <Button disabled>A whole number of steps</Button>}
    </div>
  );
}

function knobWords(steps: number): string {
  if (steps === CLICKS) return "right";
  if (steps === -CLICKS) return "the wrong way round";
  return steps === 0 ? "it does nothing" : `${Math.abs(steps)} steps for ${CLICKS} clicks`;
}
