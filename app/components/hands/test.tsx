import { ArrowRight, Check, TriangleAlert } from "lucide";
import { Button } from "~/app/components/controls";
import { countWords } from "~/core/model/labels";
import type { HandsAct } from "~/core/views/hands";
import { Icon } from "../icon";
import { Mark } from "../marks";

type Test = Extract<HandsAct["what"], { kind: "test" }>;

/** How car and phone must stand, what to do; what was tried in one go is answered in one tap. */
export function TestWords({ what, all, disabled }: { what: Test; all(): void; disabled: boolean }) {
  return (
    <div className="mt-2 text-xl">
      {what.law && <Mark tone="none">Required by law</Mark>}
      <ul aria-label="Set before">
        {what.steps.map((s) => (
          <li key={s.say} className={`flex items-center gap-2 ${s.change ? "font-medium" : "text-quiet"}`}>
            <Icon of={s.change ? ArrowRight : Check} size={20} className="shrink-0" />
            {s.say}
          </li>
        ))}
      </ul>
      <p className="mt-2">{what.say}</p>
      {what.holds.map((h) => (
        <p key={h.say} className="mt-1">
          {h.say}: hold for {h.min} s.
        </p>
      ))}
      {what.caution && (
        <p className="mt-2 flex items-start gap-2 text-watch">
          <Icon of={TriangleAlert} size={20} className="mt-1 shrink-0" />
          {what.caution}
        </p>
      )}
      {what.alike.length > 0 && (
        <div className="mt-3 border-t border-rule pt-3">
          <Button className="min-h-16! w-full text-lg" disabled={disabled} onClick={all}>
            This and {countWords(what.alike.length, "more works", "more work")}
          </Button>
          <p className="mt-1 text-base text-quiet">Tried with the car as it stands: {what.alike.join(", ")}.</p>
        </div>
      )}
    </div>
  );
}
