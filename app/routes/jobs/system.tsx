import { Download, FileText, ZoomIn, ZoomOut } from "lucide-react";
import { useRef, useState } from "react";
import { useParams } from "react-router";
import { Page } from "~/app/components/bench/page";
import { ConnectPages } from "~/app/components/connect/pages";
import { Button, buttonLook } from "~/app/components/controls";
import { SystemDrawing, SystemShape } from "~/app/components/library/system-drawing";
import { saveSvg } from "~/app/lib/save-svg";
import { useLayout } from "~/app/lib/use-layout";
import { jobOf } from "~/app/server/jobs.server";
import { laidOutSoon } from "~/app/server/layout.server";
import { drawingGraph, onlyKind, onlyLayers } from "~/core/connect/drawing";
import { KIND_NAMES, SIGNAL_KINDS, type SignalKind } from "~/core/model/kinds";
import type { Route } from "./+types/system";

export async function loader({ context }: Route.LoaderArgs) {
  const { plan, row } = await jobOf(context).load();
  const graph = drawingGraph(plan.fitted, plan.touched.parts);
  return { graph, first: await laidOutSoon(graph), number: row.number };
}

const LAYERS = ["Supply", "Control", "Picture, sound, data"];
const SCALES = [0.5, 0.75, 1, 1.35, 1.8];

export default function System({ loaderData: { graph, first, number } }: Route.ComponentProps) {
  const [layers, setLayers] = useState<readonly number[]>([0, 1, 2]);
  const [zoom, setZoom] = useState(1);
  const [kind, setKind] = useState<SignalKind | "">("");
  const { job } = useParams();
  const shown = onlyLayers(graph, layers);
  const drawing = useLayout(kind ? onlyKind(shown, kind) : shown, first);
  const kinds = SIGNAL_KINDS.filter((k) => graph.lines.some((l) => l.kinds.includes(k)));
  const frame = useRef<HTMLDivElement>(null);
  const save = () => {
    const svg = frame.current?.querySelector("svg");
    if (svg) saveSvg(svg, `system-${number}.svg`);
  };
  return (
    <>
      <ConnectPages />
      <Page>
        <h2>The whole system as fitted</h2>
        <div className="mt-3 mb-1 flex flex-wrap items-center gap-x-5 gap-y-2">
          {LAYERS.map((name, layer) => (
            <label key={name} className="inline-flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-5"
                checked={layers.includes(layer)}
                onChange={(e) =>
                  setLayers(e.currentTarget.checked ? [...layers, layer] : layers.filter((l) => l !== layer))
                }
              />
              {name}
            </label>
          ))}
          <label className="inline-flex min-h-11 items-center gap-2">
            Only
            <select className="field" value={kind} onChange={(e) => setKind(e.currentTarget.value as SignalKind | "")}>
              <option value="">every kind</option>
              {kinds.map((k) => (
                <option key={k} value={k}>
                  {KIND_NAMES[k]}
                </option>
              ))}
            </select>
          </label>
        </div>
        <div className="mb-3 flex flex-wrap items-center gap-2">
          <span className="flex gap-1">
            <Button aria-label="Smaller" disabled={zoom === 0} onClick={() => setZoom(zoom - 1)}>
              <ZoomOut size={20} aria-hidden="true" />
            </Button>
            <Button aria-label="Larger" disabled={zoom === SCALES.length - 1} onClick={() => setZoom(zoom + 1)}>
              <ZoomIn size={20} aria-hidden="true" />
            </Button>
          </span>
          <Button onClick={save} disabled={!drawing}>
            <Download size={18} aria-hidden="true" /> Save as SVG
          </Button>
          <a
            className={buttonLook()}
            href={`/jobs/${job}/system.pdf?layers=${[...layers].sort().join("")}${kind && `&kind=${kind}`}`}
          >
            <FileText size={18} aria-hidden="true" /> Open as PDF
          </a>
        </div>
        <div ref={frame}>
          {drawing ? (
            <SystemDrawing drawing={drawing} heavy="what the kit brings" scale={SCALES[zoom]} />
          ) : (
            <SystemShape />
          )}
        </div>
      </Page>
    </>
  );
}
