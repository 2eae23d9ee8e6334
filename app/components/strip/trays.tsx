import { Section } from "../controls";
import { Mark } from "../marks";

/** Where each group of fasteners lies, with a warning where one drive is out in two lengths. */
export function Trays({
  trays,
}: {
  trays: { tray: string; kind: string; count: number; lengthMm?: number; mixed: boolean }[];
}) {
  return (
    <Section title="Trays" id="trays" aside={`${trays.reduce((n, t) => n + t.count, 0)} fasteners`}>
      {trays.length === 0 ? (
        <p className="text-quiet">No screws are out. One tray per panel: put them down as the steps say.</p>
      ) : (
        <ul className="space-y-2">
          {trays.map((t) => (
            <li
              key={`${t.tray}-${t.kind}-${t.lengthMm}`}
              className="flex items-center gap-3 border border-strong px-3 py-2"
            >
              <span className="num text-3xl font-medium leading-none">{t.tray}</span>
              <span className="flex-1">
                <span className="num">
                  {t.count} × {t.kind}
                </span>
                {t.lengthMm && (
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
    </Section>
  );
}

/** A screw in its own length, so that two lengths are told apart at a glance. */
function Screw({ lengthMm }: { lengthMm: number }) {
  const w = lengthMm * 2.4;
  return (
    <svg
      width={w + 10}
      height="12"
      viewBox={`0 0 ${w + 10} 12`}
      className="inline-block align-middle"
      aria-hidden="true"
    >
      <rect x="0" y="1" width="5" height="10" rx="1.5" fill="currentColor" />
      <path d={`M5 4h${w - 3}l4 2-4 2H5z`} fill="currentColor" opacity=".65" />
    </svg>
  );
}
