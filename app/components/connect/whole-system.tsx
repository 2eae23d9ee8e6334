import { Download, FileText, ZoomIn, ZoomOut } from "lucide";
import { useRef, useState } from "react";
import type { LaidOut } from "~/app/lib/lay-out";
import { saveSvg } from "~/app/lib/save-svg";
import { KIND_NAMES, SIGNAL_KINDS, type SignalKind } from "~/core/model/kinds";
import { Focus } from "../bench/focus";
import { Button, buttonLook } from "../controls";
import { Icon } from "../icon";
import { SystemDrawing, SystemShape } from "../library/system-drawing";

const LAYERS = ["Supply", "Control", "Picture, sound, data"];
const SCALES = [0.5, 0.75, 1, 1.35, 1.8];

/** What of the system is drawn. */
export interface Filter {
  layers: readonly number[];
  kind: SignalKind | "";
}

export const ALL: Filter = { layers: [0, 1, 2], kind: "" };

/** The drawing of everything, to be filtered, enlarged and saved. */
export function WholeSystem({
  drawing,
  pending,
  kinds,
  filter,
  onFilter,
  job,
  number,
  select,
}: {
  drawing: LaidOut | null;
  pending: boolean;
  /** Kinds of signals that the system has. */
  kinds: ReadonlySet<SignalKind>;
  filter: Filter;
  onFilter(filter: Filter): void;
  job: string;
  number: number;
  select(part: string): void;
}) {
  const [zoom, setZoom] = useState<number | null>(null);
  const frame = useRef<HTMLDivElement>(null);
  const save = () => {
    const svg = frame.current?.querySelector("svg");
    if (svg) saveSvg(svg, `system-${number}.svg`);
  };
  const { layers, kind } = filter;
  const toggle = (layer: number, on: boolean) =>
    onFilter({ ...filter, layers: on ? [...layers, layer] : layers.filter((l) => l !== layer) });
  return (
    <Focus
      kicker="Touch a part to take it in hand"
      title="The whole system as fitted"
      picture={
        <>
          <div className="mb-3 flex flex-wrap items-center gap-x-5 gap-y-2">
            {LAYERS.map((name, layer) => (
              <label key={name} className="inline-flex min-h-11 items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5"
                  checked={layers.includes(layer)}
                  onChange={(e) => toggle(layer, e.currentTarget.checked)}
                />
                {name}
              </label>
            ))}
            <label className="inline-flex min-h-11 items-center gap-2">
              Only
              <select
                className="field"
                value={kind}
                onChange={(e) => onFilter({ ...filter, kind: e.currentTarget.value as SignalKind | "" })}
              >
                <option value="">every kind</option>
                {SIGNAL_KINDS.filter((k) => kinds.has(k)).map((k) => (
                  <option key={k} value={k}>
                    {KIND_NAMES[k]}
                  </option>
                ))}
              </select>
            </label>
            <span className="flex gap-1">
              <Button
                aria-label="Smaller"
                disabled={zoom === 0}
                onClick={() => setZoom(Math.max(0, (zoom ?? NORMAL) - 1))}
              >
                <Icon of={ZoomOut} size={20} />
              </Button>
              <Button
                aria-label="Larger"
                disabled={zoom === SCALES.length - 1}
                onClick={() => setZoom(Math.min(SCALES.length - 1, (zoom ?? NORMAL - 1) + 1))}
              >
                <Icon of={ZoomIn} size={20} />
              </Button>
            </span>
          </div>
          <div ref={frame} aria-busy={pending} className={pending ? "opacity-40" : undefined}>
            {drawing ? (
              <SystemDrawing
                drawing={drawing}
                heavy="what the kit brings"
                scale={zoom === null ? undefined : SCALES[zoom]}
                onTap={select}
              />
            ) : (
              <SystemShape />
            )}
          </div>
          <div className="mt-4 flex flex-wrap gap-2">
            <Button onClick={save} disabled={!drawing}>
              <Icon of={Download} size={18} /> Save as SVG
            </Button>
            <a
              className={buttonLook()}
              href={`/jobs/${job}/system.pdf?layers=${[...layers].sort().join("")}${kind && `&kind=${kind}`}`}
            >
              <Icon of={FileText} size={18} /> Open as PDF
            </a>
          </div>
        </>
      }
    />
  );
}

const NORMAL = SCALES.indexOf(1);
