import { ChevronRight } from "lucide";
import { Link } from "react-router";
import type { LaidOut } from "~/app/lib/lay-out";
import { KIND_NAMES } from "~/core/model/kinds";
import type { Standing, systemView } from "~/core/views/system";
import { Focus } from "../bench/focus";
import { Icon } from "../icon";
import { SystemDrawing, SystemShape } from "../library/system-drawing";
import { Mark } from "../marks";

export type SystemPart = ReturnType<typeof systemView>["parts"][number];

const TYPES: Record<SystemPart["type"], string> = { device: "Device", lead: "Lead", loom: "Loom" };

/** What a connection of the kit is told as; one that was there before is nothing to do. */
const STANDINGS: Record<Exclude<Standing, "built">, { tone: "good" | "none" | "stop"; word: string }> = {
  plugged: { tone: "good", word: "plugged" },
  open: { tone: "none", word: "open" },
  wrong: { tone: "stop", word: "wrong place" },
};

/** A part of the system: what it is connected to, drawn and as a list that leads on. */
export function PartFocus({
  part,
  drawing,
  pending,
  connect,
  select,
}: {
  part: SystemPart;
  drawing: LaidOut | null;
  /** The drawing shows what was in hand before. */
  pending: boolean;
  /** Address of the page of plugs. */
  connect: string;
  select(part: string): void;
}) {
  return (
    <Focus
      kicker={`${TYPES[part.type]} of the ${part.ofKit ? "kit" : "car"}`}
      title={part.name}
      picture={
        <div className="space-y-6">
          <ul>
            {part.lines.map((line) => (
              <li key={line.link} className="flex items-center gap-x-4 border-b border-rule py-1">
                <button type="button" className="min-h-11 min-w-0 flex-1 text-left" onClick={() => select(line.to)}>
                  <span className="block leading-tight">
                    {line.own || "plug"} <span aria-hidden="true">→</span>
                    <span className="sr-only"> to </span>{" "}
                    <span className="font-medium underline decoration-strong underline-offset-4">{line.toName}</span>
                    {line.into && line.into !== line.own && `, ${line.into}`}
                  </span>
                  <span className="block text-sm text-quiet">
                    {line.kinds.map((k) => KIND_NAMES[k]).join(", ")}
                    {line.air && ", without a lead"}
                  </span>
                </button>
                {line.standing !== "built" && (
                  <Link
                    to={`${connect}?at=${encodeURIComponent(line.link)}#do`}
                    className="inline-flex min-h-11 items-center gap-3"
                    aria-label={`Show its plug, ${STANDINGS[line.standing].word}: ${line.own} to ${line.toName}`}
                  >
                    <Mark tone={STANDINGS[line.standing].tone}>{STANDINGS[line.standing].word}</Mark>
                    <span className="hidden underline underline-offset-4 sm:inline">Show its plug</span>
                    <Icon of={ChevronRight} size={20} className="sm:hidden" />
                  </Link>
                )}
              </li>
            ))}
          </ul>
          <div aria-busy={pending} className={pending ? "opacity-40" : undefined}>
            {drawing ? (
              <SystemDrawing drawing={drawing} heavy="what the kit brings" at={part.id} onTap={select} />
            ) : (
              <SystemShape />
            )}
          </div>
        </div>
      }
    />
  );
}
