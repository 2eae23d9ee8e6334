import { Check, RotateCcw } from "lucide";
import { type PointerEvent, useMemo, useRef, useState } from "react";
import { acrossDeg, lensAcross } from "~/core/camera/lens";
import type { Camera, OnGlass, Pose } from "~/core/camera/pose";
import type { FloorMark } from "~/core/camera/tape-plan";
import { blindBefore, dragged, seenRows } from "~/core/camera/view";
import { FIGURES } from "~/core/model/figures";
import { Focus } from "../../bench/focus";
import { Button } from "../../controls";
import { useAppend, useJob } from "../../entry-form";
import { Icon } from "../../icon";
import { Mark } from "../../marks";
import { CameraPicture } from "./camera-picture";
import { cylinders } from "./cylinders";
import { FigureFields } from "./figure-fields";
import { bumperOf } from "./figures";
import { GroundPlan } from "./ground-plan";
import type { ShownCamera } from "./measure-camera";

const SHAPES = [
  ["4 : 3", 4 / 3],
  ["3 : 2", 3 / 2],
  ["16 : 9", 16 / 9],
] as const;

/** Where the camera sits and how it looks, with the picture and the ground that follow; drag the picture to turn it. */
export function PlaceCamera({
  camera: shown,
  draft: camera,
  onDraft: setCamera,
  after,
}: {
  camera: ShownCamera;
  /** As it is being placed. */
  draft: Camera;
  onDraft(camera: Camera | null): void;
  after: string | undefined;
}) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const [objects, setObjects] = useState(false);
  const bumper = bumperOf(shown);
  const blind = blindBefore(seenRows(camera, { bumper }));
  const hidden = bumper === null && camera.pose.yM < 0;
  const changed = camera !== shown.wanted.camera;
  const pose = (change: Partial<Pose>) => setCamera({ ...camera, pose: { ...camera.pose, ...change } });
  return (
    <Focus
      kicker={`${shown.name}, place it`}
      marks={
        shown.wanted.placed ? (
          <Mark tone="good">Placed</Mark>
        ) : shown.wanted.usual.length > 0 ? (
          <Mark tone="watch">Only usual figures</Mark>
        ) : null
      }
      title={
        blind === null
          ? "No ground before the bumper is seen"
          : `The ground is seen from ${blind < 0.1 ? "the bumper" : `${blind.toFixed(1)} m`} on${hidden ? ", if the bumper hides nothing" : ""}`
      }
      after={after}
      actions={
        <>
          <Button
            look={changed || !shown.wanted.placed ? "next" : "plain"}
            disabled={busy || readOnly}
            onClick={() => {
              const { pose, lens, shape } = camera;
              const aim = { pose, law: lens.law, acrossDeg: acrossDeg(lens), k1: lens.k1, shape };
              append({ kind: "prove.aim", data: { camera: shown.id, ...aim } });
              setCamera(null);
            }}
          >
            <Icon of={Check} size={18} /> It is to look so
          </Button>
          {changed && (
            <Button onClick={() => setCamera(null)}>
              <Icon of={RotateCcw} size={18} /> As before
            </Button>
          )}
        </>
      }
      picture={
        <div className="max-w-2xl space-y-4">
          <Turnable camera={camera} onTurn={setCamera}>
            <CameraPicture
              camera={camera}
              bumper={bumper}
              lines={objects ? cylinders() : []}
              label={`What the ${shown.name.toLowerCase()} would show`}
            />
          </Turnable>
          <p className="mt-1 text-sm text-quiet">Drag the picture to turn the camera.</p>
          <div className="mt-3 flex flex-wrap gap-x-5 gap-y-3">
            <Number_
              name="Height, cm"
              value={100 * camera.pose.zM}
              min={15}
              max={250}
              onChange={(v) => pose({ zM: v / 100 })}
            />
            <Number_
              name="Behind the edge, cm"
              value={-100 * camera.pose.yM}
              min={-50}
              max={150}
              onChange={(v) => pose({ yM: -v / 100 })}
            />
            <Number_
              name="Left of the middle, cm"
              value={(shown.looks === "back" ? 100 : -100) * camera.pose.xM}
              min={-150}
              max={150}
              onChange={(v) => pose({ xM: ((shown.looks === "back" ? 1 : -1) * v) / 100 })}
            />
            <Number_
              name="Down, °"
              value={camera.pose.pitchDeg}
              min={-10}
              max={90}
              onChange={(v) => pose({ pitchDeg: v })}
            />
          </div>
          <details className="border-y border-rule">
            <summary className="flex min-h-11 cursor-pointer items-center font-medium">Lens, picture, turns</summary>
            <div className="flex flex-wrap gap-x-5 gap-y-3 pb-3">
              <Number_
                name={`To the side, ° (${shown.looks === "back" ? "left" : "right"} of the car)`}
                value={camera.pose.yawDeg}
                min={-45}
                max={45}
                onChange={(v) => pose({ yawDeg: v })}
              />
              <Number_
                name="Leaning clockwise, ° (from behind)"
                value={camera.pose.rollDeg}
                min={-45}
                max={45}
                onChange={(v) => pose({ rollDeg: v })}
              />
              <Number_
                name="Lens across, °"
                value={acrossDeg(camera.lens)}
                min={FIGURES.lensDeg.min}
                max={camera.lens.law === "straight" ? 150 : FIGURES.lensDeg.max}
                onChange={(v) => setCamera({ ...camera, lens: lensAcross(camera.lens.law, v, camera.lens.k1) })}
              />
              <label className="block">
                <span className="block text-sm">Lens</span>
                <select
                  className="field w-auto!"
                  value={camera.lens.law}
                  onChange={(e) => {
                    const law = e.currentTarget.value === "straight" ? "straight" : "fisheye";
                    setCamera({
                      ...camera,
                      lens: lensAcross(
                        law,
                        Math.min(acrossDeg(camera.lens), law === "straight" ? 130 : 220),
                        camera.lens.k1,
                      ),
                    });
                  }}
                >
                  <option value="fisheye">Fisheye, lines bend</option>
                  <option value="straight">Straight lines</option>
                </select>
              </label>
              <label className="block">
                <span className="block text-sm">Picture of the camera</span>
                <select
                  className="field w-auto!"
                  value={SHAPES.find(([, shape]) => Math.abs(shape - camera.shape) < 0.01)?.[0] ?? "own"}
                  onChange={(e) => {
                    const shape = SHAPES.find(([name]) => name === e.currentTarget.value)?.[1];
                    if (shape) setCamera({ ...camera, shape });
                  }}
                >
                  {SHAPES.map(([name]) => (
                    <option key={name}>{name}</option>
                  ))}
                  <option value="own">its own</option>
                </select>
              </label>
              <Number_
                name="Bending of the lens (k1 × 100)"
                value={100 * camera.lens.k1}
                min={-30}
                max={30}
                onChange={(v) =>
                  setCamera({ ...camera, lens: lensAcross(camera.lens.law, acrossDeg(camera.lens), v / 100) })
                }
              />
            </div>
          </details>
          <label className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-5 accent-[var(--ink)]"
              checked={objects}
              onChange={(e) => setObjects(e.currentTarget.checked)}
            />
            With the cylinders of the rear view rule, 0.8 m high
          </label>
          <FigureFields figures={shown.figures.eye.filter((f) => f.name === "bumperHeightMm")} />
          <div className="lg:hidden">
            <GroundSeen camera={shown} draft={camera} />
          </div>
        </div>
      }
    >
      {!shown.wanted.placed && shown.wanted.usual.length > 0 && (
        <p>No document says how it sits; what you see begins with usual figures. Set them by the tape.</p>
      )}
    </Focus>
  );
}

/** From above: the ground that the camera sees as it is placed. */
export function GroundSeen({
  camera,
  draft,
  marks = [],
}: {
  camera: ShownCamera;
  draft: Camera;
  marks?: readonly FloorMark[];
}) {
  const [heightM, setHeightM] = useState(0);
  const bumper = bumperOf(camera);
  const rows = useMemo(() => seenRows(draft, { heightM, bumper }), [draft, heightM, bumper]);
  const blind = blindBefore(rows);
  return (
    <figure>
      <GroundPlan
        looks={camera.looks}
        widthM={bumper?.widthM ?? 1.75}
        seen={rows}
        marks={marks}
        label={`From above, ${blind === null ? "nothing is seen before the middle of the bumper" : `seen from ${blind.toFixed(1)} m on in the middle`}`}
      />
      <figcaption className="mt-1 flex flex-wrap items-center gap-2 text-sm">
        Shaded: seen,
        <select
          className="field w-auto!"
          aria-label="Height at which it is seen"
          value={heightM}
          onChange={(e) => setHeightM(Number(e.currentTarget.value))}
        >
          <option value={0}>on the ground</option>
          <option value={0.5}>half a metre up</option>
          <option value={0.8}>0.8 m up</option>
        </select>
      </figcaption>
    </figure>
  );
}

function Number_({
  name,
  value,
  min,
  max,
  onChange,
}: {
  name: string;
  value: number;
  min: number;
  max: number;
  onChange(value: number): void;
}) {
  return (
    <label className="block">
      <span className="block text-sm">{name}</span>
      <input
        type="number"
        inputMode="decimal"
        className="field num w-28!"
        value={Math.round(10 * value) / 10}
        min={min}
        max={max}
        step={1}
        onChange={(e) => {
          const typed = e.currentTarget.valueAsNumber;
          if (typed >= min && typed <= max) onChange(typed);
        }}
      />
    </label>
  );
}

/** The picture turns the camera while it is dragged. */
function Turnable({
  camera,
  onTurn,
  children,
}: {
  camera: Camera;
  onTurn(camera: Camera): void;
  children: React.ReactNode;
}) {
  const from = useRef<{ at: OnGlass; camera: Camera } | null>(null);
  const place = (e: PointerEvent<HTMLDivElement>): OnGlass => {
    const box = e.currentTarget.getBoundingClientRect();
    return { u: (e.clientX - box.left) / box.width, v: (e.clientY - box.top) / box.height };
  };
  return (
    <div
      className="cursor-move touch-none"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        from.current = { at: place(e), camera };
      }}
      onPointerMove={(e) => from.current && onTurn(dragged(from.current.camera, from.current.at, place(e)))}
      onPointerUp={() => {
        from.current = null;
      }}
    >
      {children}
    </div>
  );
}
