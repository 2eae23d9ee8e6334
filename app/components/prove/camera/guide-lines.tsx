import { Check } from "lucide";
import { useState } from "react";
import { EDGES, type Edge, edgePath, JUDGED_M, type LineError, type Steered } from "~/core/camera/guide-lines";
import type { Camera } from "~/core/camera/pose";
import type { Point } from "~/core/geometry/unit-square";
import { steeredFrom } from "~/core/job/cameras";
import { Focus } from "../../bench/focus";
import { Button } from "../../controls";
import { useAppend, useJob } from "../../entry-form";
import { Icon } from "../../icon";
import { Mark, Notice } from "../../marks";
import { CameraPicture } from "./camera-picture";
import { FigureFields } from "./figure-fields";
import { bumperOf, figure } from "./figures";
import { FITS_CM, worstOf } from "./items";
import { CORNERS, type ShownCamera } from "./measure-camera";
import { type Steering, SteeringReplay } from "./steering-replay";
import { type Photo, PhotoButton, TapPhoto } from "./tap-photo";

const MOST_DEG = 540;

/** Where the car's edges go, as lines in the picture; and the lines of the module held against them. */
export function GuideLines({
  camera,
  steering,
  standIn,
  after,
}: {
  camera: ShownCamera;
  steering: Steering | null;
  standIn: boolean;
  after: string | undefined;
}) {
  const { job } = useJob();
  const [wheel, setWheel] = useState(camera.lines?.steeringWheelDeg ?? 0);
  const [photo, setPhoto] = useState<Photo | null>(null);
  if (photo)
    return <TapLines camera={camera} photo={photo} wheel={wheel} onDone={() => setPhoto(null)} after={after} />;
  const steered = steeredOf(camera, wheel);
  const seen: Camera = camera.measured?.camera ?? camera.wanted.camera;
  const made = standIn ? `/jobs/${job.id}/camera-photo/${camera.id}?wheel=${wheel}` : null;
  const worst = worstOf(camera.lines?.errors ?? []);
  return (
    <Focus
      kicker={`${camera.name}, guide lines`}
      marks={
        worst !== null &&
        (worst <= FITS_CM ? <Mark tone="good">The lines fit</Mark> : <Mark tone="stop">Beside the car's way</Mark>)
      }
      title={
        steered === null
          ? "Measure what is not known of the car"
          : worst !== null
            ? `The module's lines lie at most ${worst.toFixed(0)} cm beside the car's way`
            : "Hold the lines of the module against the car's way"
      }
      after={after}
      actions={steered && camera.measured && <PhotoButton standIn={made} onPhoto={setPhoto} next={worst === null} />}
      picture={
        <div className="max-w-2xl">
          <CameraPicture
            camera={seen}
            bumper={bumperOf(camera)}
            lines={
              steered
                ? [...edges(steered), ...(wheel === 0 ? [] : edges({ ...steered, roadWheelDeg: 0 }, "straight"))]
                : []
            }
            label={`Where the edges of the car go with the steering wheel at ${wheel}°`}
          />
          <label className="mt-3 block">
            <span className="block text-sm">
              Steering wheel <span className="num font-semibold">{Math.abs(wheel)}°</span>{" "}
              {wheel === 0 ? "straight" : wheel < 0 ? "to the left" : "to the right"}
            </span>
            <input
              type="range"
              min={-MOST_DEG}
              max={MOST_DEG}
              step={1}
              value={wheel}
              onChange={(e) => setWheel(Number(e.currentTarget.value))}
              className="h-11 w-full accent-[var(--ink)]"
            />
          </label>
          {steering && <SteeringReplay steering={steering} onWheel={setWheel} />}
          <div className="mt-3">
            <FigureFields figures={camera.figures.steering} />
          </div>
        </div>
      }
    >
      {camera.lines ? (
        <Errors errors={camera.lines.errors} wheel={camera.lines.steeringWheelDeg} looks={camera.looks} />
      ) : camera.measured ? (
        <p>Set the steering wheel, photograph the screen, and tap along each line that the module draws.</p>
      ) : (
        <Notice tone="watch" title="Drawn for the camera as it is to look">
          <p>Measure it first; then the lines of the module can be judged.</p>
        </Notice>
      )}
    </Focus>
  );
}

function steeredOf(camera: ShownCamera, wheel: number) {
  const overhang = figure(camera, camera.looks === "back" ? "rearOverhangMm" : "frontOverhangMm");
  const [wheelbase, width, ratio] = [
    figure(camera, "wheelbaseMm"),
    figure(camera, "widthMm"),
    figure(camera, "steeringRatio"),
  ];
  if (!wheelbase || !overhang || !width || !ratio) return null;
  return steeredFrom({ wheelbase, overhang, width, ratio, looks: camera.looks }, wheel);
}

/** Both edges as lines on the ground; those that stay where they are when the wheel turns are thin. */
function edges(steered: Steered, still = "") {
  return EDGES.map((edge) => ({
    id: `${edge} ${still}`,
    line: edgePath(steered, edge).map((p) => ({ ...p, z: 0 })),
    strong: still === "",
  }));
}

/** Left and right of the car: the other way round for a camera that looks back. */
function sideOf(edge: Edge, looks: "back" | "ahead"): Edge {
  return looks === "ahead" ? edge : edge === "left" ? "right" : "left";
}

function Errors({ errors, wheel, looks }: { errors: readonly LineError[]; wheel: number; looks: "back" | "ahead" }) {
  const sides: Edge[] = ["left", "right"];
  return (
    <table className="num">
      <caption className="mb-1 text-left font-sans text-sm text-quiet">
        Steering wheel at {Math.round(wheel)}°; centimetres beside the car's way
      </caption>
      <thead>
        <tr>
          <th className="pr-6 text-left font-sans font-medium">Line</th>
          {JUDGED_M.map((m) => (
            <th key={m} className="pr-6 text-right font-medium">
              {m} m
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {sides.map((side) => (
          <tr key={side}>
            <th className="pr-6 text-left font-sans font-normal">{side} of the car</th>
            {JUDGED_M.map((m) => {
              const edge = sideOf(side, looks);
              const off = errors.find((e) => e.edge === edge && e.atM === m)?.offCm ?? null;
              return (
                <td key={m} className="pr-6 text-right">
                  {off === null ? <span className="text-quiet">not tapped</span> : words(off, edge)}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function words(offCm: number, edge: Edge): string {
  const out = edge === "right" ? offCm : -offCm;
  return Math.abs(out) < 0.5 ? "0" : `${Math.abs(out).toFixed(0)} ${out > 0 ? "outside" : "inside"}`;
}

/** Corners, then along the left line of the screen, then along its right one. */
function TapLines({
  camera,
  photo,
  wheel,
  onDone,
  after,
}: {
  camera: ShownCamera;
  photo: Photo;
  wheel: number;
  onDone(): void;
  after: string | undefined;
}) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const [corners, setCorners] = useState<Point[]>([]);
  const [left, setLeft] = useState<Point[]>([]);
  const [right, setRight] = useState<Point[] | null>(null);
  const corner = CORNERS[corners.length];
  const say = corner
    ? `Corner of the picture: ${corner}`
    : right === null
      ? "Along the left line of the screen, from below upwards"
      : "Along the right line of the screen, from below upwards";
  const tap = (at: Point) => {
    if (corner) setCorners([...corners, at]);
    else if (right === null) setLeft([...left, at]);
    else setRight([...right, at]);
  };
  const back = () => {
    if (right !== null) setRight(right.length > 0 ? right.slice(0, -1) : null);
    else if (left.length > 0) setLeft(left.slice(0, -1));
    else setCorners(corners.slice(0, -1));
  };
  const keep = () => {
    const [a, b, c, d] = corners;
    if (!a || !b || !c || !d) return;
    // A mirrored picture has the left of the camera on its right.
    const taps = camera.measured?.camera.mirrored ? { left: right ?? [], right: left } : { left, right: right ?? [] };
    append({ kind: "prove.lines", data: { camera: camera.id, corners: [a, b, c, d], taps, steeringWheelDeg: wheel } });
    onDone();
  };
  return (
    <Focus
      kicker={`${camera.name}, guide lines with the steering wheel at ${wheel}°`}
      title="Tap along the lines that the module draws"
      after={after}
      actions={
        <>
          {!corner && right === null && (
            <Button look="next" disabled={left.length < 2} onClick={() => setRight([])}>
              Left line is done
            </Button>
          )}
          {right !== null && (
            <Button look="next" disabled={busy || readOnly || right.length < 2} onClick={keep}>
              <Icon of={Check} size={18} /> Keep the lines
            </Button>
          )}
          <Button onClick={onDone}>Cancel</Button>
        </>
      }
      picture={
        <TapPhoto
          photo={photo}
          say={say}
          taps={[...corners, ...left, ...(right ?? [])].map((at, i) => ({ id: i < 4 ? "" : String(i - 3), at }))}
          onTap={tap}
          onBack={corners.length > 0 ? back : undefined}
        />
      }
    />
  );
}
