import { FileText } from "lucide";
import type { SmallLine, TrayLine } from "~/core/strip/fasteners";
import { buttonLook, Section } from "../controls";
import { EntryButton } from "../entry-form";
import { Icon } from "../icon";
import { Mark } from "../marks";
import { Screw } from "./step-facts";

/** Where each group of fasteners lies, with a warning where one drive is out in two lengths. */
export function Trays({ trays, screwsOut, job }: { trays: TrayLine[]; screwsOut: number; job: string }) {
  return (
    <Section title="Trays" id="trays" aside={`${screwsOut} fasteners out`}>
      {trays.length === 0 ? (
        <p className="text-quiet">No screws are out. One tray per panel: put them down as the steps say.</p>
      ) : (
        <ul className="space-y-2">
          {trays.map((t) => (
            <li key={`${t.step}-${t.group}`} className="flex items-center gap-3 border border-strong px-3 py-2">
              <span className="num text-3xl font-medium leading-none">{t.tray}</span>
              <span className="min-w-0 flex-1">
                <span className="num">
                  {t.count} × {t.kind}
                </span>
                {t.countedOut !== undefined && <span className="text-sm text-quiet"> counted</span>}
                {t.lengthMm !== undefined && (
                  <span className="block text-sm text-quiet">
                    <Screw lengthMm={t.lengthMm} /> <span className="num">{t.lengthMm} mm</span>
                  </span>
                )}
                {t.mixed && <Mark tone="watch">Two lengths are out</Mark>}
              </span>
            </li>
          ))}
        </ul>
      )}
      <a
        href={`/jobs/${job}/trays.pdf`}
        target="_blank"
        rel="noreferrer"
        className={`${buttonLook("quiet")} mt-2 px-0!`}
      >
        <Icon of={FileText} size={18} /> Tray sheet to print
      </a>
    </Section>
  );
}

/** Small parts to get: broken clips and lost screws, told or found by counting. */
export function SmallParts({ parts }: { parts: SmallLine[] }) {
  if (parts.length === 0) return null;
  return (
    <Section title="Small parts to get" id="small-parts" aside={String(parts.length)}>
      <ul className="space-y-1">
        {parts.map((p) => (
          <li
            key={`${p.what}-${p.entry ?? p.step}`}
            className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule pb-2 last:border-0"
          >
            <span className="basis-full">
              <span className="num font-medium">{p.count} ×</span> {p.what}
            </span>
            <Mark tone={p.state === "broken" ? "none" : "watch"}>
              {p.state === "broken" ? "Broken" : p.found === "counted" ? "Missing by count" : "Lost"}
            </Mark>
            {p.entry && (
              <EntryButton
                look="quiet"
                body={{ kind: "undo", data: { entry: p.entry } }}
                label={`Take off the list: ${p.what}`}
              >
                Take off
              </EntryButton>
            )}
          </li>
        ))}
      </ul>
    </Section>
  );
}
