import { Eraser, Lock, Radar } from "lucide";
import { useCarSession } from "~/app/lib/use-car-session";
import type { CodingView, UnitView } from "~/core/views/coding";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { useJob } from "../entry-form";
import { Icon } from "../icon";
import { Mark } from "../marks";
import { AllowSending, SessionBar } from "./session-bar";
import { WordsExchange } from "./words-exchange";

/** All control units of the map: found or not, their codes, and whether these were to be expected. */
export function UnitsFocus({ coding, after }: { coding: CodingView; after: string | undefined }) {
  const session = useCarSession();
  const { job, readOnly } = useJob();
  const busy = session.running !== null || readOnly || !session.sending || session.way === null;
  const scanned = coding.units.some((u) => u.seen);
  const stored = coding.units.filter((u) => !u.locked && (u.codes?.length ?? 0) > 0);
  return (
    <Focus
      kicker={coding.map.title}
      title="Control units"
      after={after}
      actions={
        <>
          <AllowSending />
          <Button
            look={scanned || !session.sending ? "plain" : "next"}
            disabled={busy}
            onClick={() => session.scan(coding.units)}
            aria-keyshortcuts={session.sending ? "Space" : undefined}
          >
            <Icon of={Radar} size={18} /> {scanned ? "Scan again" : "Scan the car"}
          </Button>
          {stored.length > 0 && (
            <Button disabled={busy} onClick={() => session.clear(stored)}>
              <Icon of={Eraser} size={18} /> Clear codes in {stored.length} {stored.length === 1 ? "unit" : "units"}
            </Button>
          )}
        </>
      }
      picture={
        <>
          <ul>
            {coding.units.map((u) => (
              <Unit key={u.id} unit={u} />
            ))}
          </ul>
          <WordsExchange coding={coding} />
        </>
      }
    >
      <SessionBar standIn={job.practice} />
    </Focus>
  );
}

function Unit({ unit }: { unit: UnitView }) {
  const { heard, running } = useCarSession();
  const live = running ? heard.get(unit.id) : undefined;
  return (
    <li className="border-t border-rule py-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <span className="min-w-44 font-medium">{unit.name}</span>
        <Found unit={unit} live={live} />
        {unit.seen?.answered && (
          <span className="num text-sm text-quiet">
            {[unit.seen.part, unit.seen.software && `software ${unit.seen.software}`].filter(Boolean).join(", ")}
          </span>
        )}
      </div>
      {unit.locked && (
        <p className="flex items-center gap-1.5 text-sm text-quiet">
          <Icon of={Lock} size={15} /> Seen, never written here: {unit.locked}. Its work follows the maker's procedure,
          by licensed people and local law.
        </p>
      )}
      {unit.strange.length > 0 && (
        <p className="text-watch">
          {unit.strange.join(", ")} predicted, and this unit knows no such code: the document of the car is for another
          one.
        </p>
      )}
      {unit.codes?.map((c) => (
        <p key={c.code} className="flex flex-wrap items-center gap-x-3">
          <span className="num font-semibold">{c.code}</span>
          {c.say}
          <span className="text-sm">{c.active ? "active now" : "stored, not active now"}</span>
          {c.records && <span className="num text-sm text-quiet">kept beside it: {c.records}</span>}
          <span className="text-sm text-quiet">
            {c.predicted === null ? "not known whether expected" : c.predicted ? "as predicted" : "not predicted"}
          </span>
        </p>
      ))}
    </li>
  );
}

function Found({ unit, live }: { unit: UnitView; live: "answered" | "silent" | undefined }) {
  const answered = live ? live === "answered" : unit.seen?.answered;
  if (answered === undefined) return <Mark tone="none">Not scanned</Mark>;
  if (answered)
    return (
      <Mark tone="good">
        {unit.codes === null || live
          ? "Answers"
          : `Answers, ${unit.codes.length === 0 ? "no codes" : `${unit.codes.length} stored`}`}
      </Mark>
    );
  return <Mark tone="watch">{unit.listed ? "Silent: not in the gateway's list?" : "Silent"}</Mark>;
}
