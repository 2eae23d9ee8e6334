import { wrap } from "comlink";
import { Check, Printer, RotateCw } from "lucide";
import { useEffect, useMemo, useState } from "react";
import type { SightWorker } from "~/app/workers/sight.worker";
import { placeWords } from "~/core/camera/place-words";
import { type Measured, type SightOutcome, sight } from "~/core/camera/sight";
import { type Expected, MARKS_NEEDED, type Sighting } from "~/core/camera/sighting";
import { type Turn, turnWords } from "~/core/camera/turn";
import type { Point } from "~/core/geometry/unit-square";
import type { proveView } from "~/core/views/prove";
import { Focus } from "../../bench/focus";
import { Button, buttonLook } from "../../controls";
import { EntryButton, useAppend, useJob } from "../../entry-form";
import { Icon } from "../../icon";
import { Mark, Notice } from "../../marks";
import { CameraPicture } from "./camera-picture";
import { GroundPlan, MarkList } from "./ground-plan";
import { type Photo, PhotoButton, TapPhoto } from "./tap-photo";

export type ShownCamera = ReturnType<typeof proveView>["cameras"][number];

/** In the order of tapping. */
export const CORNERS = ["upper left", "upper right", "lower right", "lower left"] as const;

/** Marks on the floor, a photo of the screen, taps: how the camera really looks, and how far it is to be turned. */
export function MeasureCamera({
  camera,
  standIn,
  after,
}: {
  camera: ShownCamera;
  standIn: boolean;
  after: string | undefined;
}) {
  const { job } = useJob();
  const [photo, setPhoto] = useState<Photo | null>(null);
  const made = standIn ? `/jobs/${job.id}/camera-photo/${camera.id}?at=${camera.turned.length}` : null;
  if (photo)
    return (
      <Tapping
        camera={camera}
        photo={photo}
        onKept={() => setPhoto(null)}
        onCancel={() => setPhoto(null)}
        after={after}
      />
    );
  if (camera.measured)
    return <Result camera={camera} measured={camera.measured} onPhoto={setPhoto} made={made} after={after} />;
  return (
    <Focus
      kicker={`${camera.name}, measure it`}
      title={
        camera.turned.length > 0
          ? "Turned. Photograph the screen with the marks again"
          : "Set these marks on the floor, then photograph the screen"
      }
      after={after}
      actions={
        <>
          <PhotoButton standIn={made} onPhoto={setPhoto} next />
          <a className={buttonLook()} href={`/jobs/${job.id}/marks/${camera.id}`} target="_blank" rel="noreferrer">
            <Icon of={Printer} size={18} /> Print the list
          </a>
        </>
      }
      picture={
        <div className="space-y-5">
          <MarkList marks={camera.marks} looks={camera.looks} />
          <div className="max-w-xs lg:hidden">
            <GroundPlan
              looks={camera.looks}
              widthM={1.75}
              marks={camera.marks}
              far={4}
              label={`Marks on the floor: ${camera.marks.map((m) => `${m.id} at ${placeWords(m.at, camera.looks)}`).join("; ")}`}
            />
          </div>
        </div>
      }
    >
      <p>
        Level floor, wheels straight. Crosses of tape: first figure from the edge of the bumper, second from the middle
        line of the car. Key on, parking brake set, {camera.looks === "back" ? "reverse selected, " : ""}all of the
        screen on the photo.
      </p>
    </Focus>
  );
}

/** Corners first, then the marks; the answer stands beside the photo as soon as there is one. */
function Tapping({
  camera,
  photo,
  onKept,
  onCancel,
  after,
}: {
  camera: ShownCamera;
  photo: Photo;
  onKept(): void;
  onCancel(): void;
  after: string | undefined;
}) {
  const { append, busy } = useAppend();
  const { readOnly } = useJob();
  const [taps, setTaps] = useState<readonly (Point | null)[]>([]);
  const ids = [...CORNERS, ...camera.marks.map((m) => m.id)];
  const now = ids[taps.length];
  const sighting = useMemo(() => sightingOf(camera, taps), [camera, taps]);
  const outcome = useMemo(() => sighting && sight(sighting, camera.expected), [sighting, camera.expected]);
  const good = outcome?.kind === "measured" ? outcome : null;
  const complete = taps.length === ids.length;
  return (
    <Focus
      kicker={`${camera.name}, ${Math.max(0, taps.length - 4)} of ${camera.marks.length} marks`}
      title={complete ? (good ? "Keep this measurement?" : "This is no measurement yet") : "Tap on the photo"}
      after={after}
      actions={
        <>
          {complete && good && sighting && (
            <Button
              look="next"
              disabled={busy || readOnly}
              onClick={() => {
                append({ kind: "prove.sight", data: { camera: camera.id, sighting } });
                onKept();
              }}
            >
              <Icon of={Check} size={18} /> Keep it
            </Button>
          )}
          <Button onClick={onCancel}>Another photo</Button>
        </>
      }
      picture={
        <>
          <TapPhoto
            photo={photo}
            say={now ? sayOf(now, taps.length) : null}
            taps={taps.flatMap((at, i) => (at ? [{ id: i < 4 ? "" : (ids[i] ?? ""), at }] : []))}
            onTap={(at) => setTaps([...taps, at])}
            onBack={taps.length > 0 ? () => setTaps(taps.slice(0, -1)) : undefined}
            skip={
              taps.length >= 4 && now
                ? { say: `${now} is not in the picture`, act: () => setTaps([...taps, null]) }
                : undefined
            }
          >
            {good?.marks.map((m) => (
              <circle
                key={m.id}
                cx={m.expected.x}
                cy={m.expected.y}
                r={photo.width / 110}
                fill="none"
                stroke="#fff"
                strokeWidth={photo.width / 400}
              />
            ))}
          </TapPhoto>
          {good && (
            <div className="mt-4">
              <Figures measured={good} looks={camera.looks} />
            </div>
          )}
        </>
      }
    >
      {!good && outcome && outcome.kind !== "measured" && (complete || outcome.kind !== "few") && sighting && (
        <Wrong outcome={outcome} sighting={sighting} expected={camera.expected} />
      )}
    </Focus>
  );
}

function sayOf(id: string, done: number): string {
  return done < 4 ? `Corner of the picture: ${id}` : `Mark ${id}`;
}

function sightingOf(camera: ShownCamera, taps: readonly (Point | null)[]): Sighting | null {
  const [a, b, c, d, ...rest] = taps;
  if (!a || !b || !c || !d) return null;
  return {
    corners: [a, b, c, d],
    marks: rest.flatMap((tap, i) => {
      const mark = camera.marks[i];
      return tap && mark ? [{ ...mark, tap }] : [];
    }),
  };
}

function Figures({
  measured: { camera, sigma, rmsPx, marks },
  looks,
}: {
  measured: Measured;
  looks: "back" | "ahead";
}) {
  const worst = marks.reduce((m, o) => (o.offPx > m.offPx ? o : m));
  const rows = [
    ["Height", `${(100 * camera.pose.zM).toFixed(1)} cm`, `± ${(200 * sigma.zM).toFixed(1)}`],
    [
      "Looks",
      turnWords({ axis: "pitchDeg", byDeg: camera.pose.pitchDeg }, looks),
      `± ${(2 * sigma.pitchDeg).toFixed(1)}`,
    ],
    [
      "To the side",
      turnWords({ axis: "yawDeg", byDeg: camera.pose.yawDeg }, looks).replace(" of the car", ""),
      `± ${(2 * sigma.yawDeg).toFixed(1)}`,
    ],
    [
      "Leaning, as you face it",
      turnWords({ axis: "rollDeg", byDeg: camera.pose.rollDeg }, looks).split(",")[0],
      `± ${(2 * sigma.rollDeg).toFixed(1)}`,
    ],
  ];
  return (
    <>
      <dl className="flex flex-wrap gap-x-8 gap-y-1">
        {rows.map(([name, value, off]) => (
          <div key={name}>
            <dt className="text-sm text-quiet">{name}</dt>
            <dd className="num text-lg">
              <span className="font-semibold">{value}</span> <span className="text-quiet">{off}</span>
            </dd>
          </div>
        ))}
      </dl>
      <p className="text-sm text-quiet">
        Taps {rmsPx.toFixed(1)} pixels off on average, most at mark {worst.id}: {worst.offPx.toFixed(1)} pixels
        {worst.offCm === null ? "" : `, ${worst.offCm.toFixed(1)} cm on the floor`}. Picture{" "}
        {camera.mirrored ? "mirrored" : "not mirrored"}. ± holds in 95 of 100 cases.
      </p>
    </>
  );
}

function Wrong({
  outcome,
  sighting,
  expected,
}: {
  outcome: Exclude<SightOutcome, Measured>;
  sighting: Sighting;
  expected: Expected;
}) {
  switch (outcome.kind) {
    case "few":
      return (
        <Notice tone="watch" title={`${outcome.missing} more marks are needed`}>
          <p>At least {MARKS_NEEDED} must be in the picture. Set more marks nearer to its middle.</p>
        </Notice>
      );
    case "corners":
      return (
        <Notice tone="stop" title="The four corners make no quadrilateral">
          <p>Take the taps back and tap them in turn: {CORNERS.join(", ")}.</p>
        </Notice>
      );
    case "loose":
      return (
        <Notice tone="watch" title="The marks lie so that the camera cannot be told">
          <p>They need two rows or more, and both sides.</p>
        </Notice>
      );
    case "noFit":
      return (
        <Notice tone="stop" title="No camera sees these marks where they were tapped">
          <Suspects sighting={sighting} expected={expected} />
        </Notice>
      );
  }
}

/** Looked for beside the page: it takes up to a second. */
function Suspects({ sighting, expected }: { sighting: Sighting; expected: Expected }) {
  const [found, setFound] = useState<[string] | [string, string] | null | undefined>(undefined);
  useEffect(() => {
    const own = new Worker(new URL("../../../workers/sight.worker.ts", import.meta.url), { type: "module" });
    let live = true;
    void wrap<SightWorker>(own)
      .suspects(sighting, expected)
      .then((s) => live && setFound(s));
    return () => {
      live = false;
      own.terminate();
    };
  }, [sighting, expected]);
  if (found === undefined) return <p>Looking for the mark ...</p>;
  if (found === null) return <p>Look at the corners, and whether every mark lies where the list says.</p>;
  const [a, b] = found;
  return (
    <p>
      {b ? `Marks ${a} and ${b} were tapped in each other's place.` : `Mark ${a} lies or was tapped at a wrong place.`}
    </p>
  );
}

function Result({
  camera,
  measured,
  onPhoto,
  made,
  after,
}: {
  camera: ShownCamera;
  measured: Measured;
  onPhoto(photo: Photo): void;
  made: string | null;
  after: string | undefined;
}) {
  const needed = camera.turns.filter((t) => t.say === "turn");
  const unsure = camera.turns.filter((t) => t.say === "unsure");
  return (
    <Focus
      kicker={`${camera.name}, measured by ${camera.by}`}
      marks={
        camera.wrongWay ? (
          <Mark tone="stop">Wrong way round</Mark>
        ) : needed.length > 0 ? (
          <Mark tone="stop">To be turned</Mark>
        ) : unsure.length > 0 ? (
          <Mark tone="watch">Too uncertain to say</Mark>
        ) : (
          <Mark tone="good">Straight</Mark>
        )
      }
      title={titleOf(camera, needed)}
      after={after}
      actions={
        <>
          {needed.length > 0 && (
            <EntryButton look="next" body={{ kind: "prove.turned", data: { camera: camera.id } }} shortcut="Space">
              <Icon of={RotateCw} size={18} /> Turned: measure again
            </EntryButton>
          )}
          <PhotoButton standIn={made} onPhoto={onPhoto} />
        </>
      }
      picture={
        <div className="max-w-2xl space-y-3">
          <Figures measured={measured} looks={camera.looks} />
          <CameraPicture
            camera={measured.camera}
            bumper={null}
            marks={camera.marks}
            label={`What the ${camera.name.toLowerCase()} shows as measured`}
          />
        </div>
      }
    >
      {needed.length > 0 && (
        <ul className="text-lg font-medium">
          {needed.map((t) => (
            <li key={t.axis}>
              {turnWords(t, camera.looks)}{" "}
              <span className="num font-normal text-quiet">± {(2 * t.sigmaDeg).toFixed(1)}°</span>
            </li>
          ))}
        </ul>
      )}
      {camera.wrongWay && (
        <p>
          A rear camera shows its picture as a driving mirror does, a front camera as it is. Look for a loop of wire or
          a menu entry that turns the picture.
        </p>
      )}
      {unsure.length > 0 && <p>More marks, farther apart, and calmer taps make it surer.</p>}
    </Focus>
  );
}

function titleOf({ wrongWay, wanted, looks, turns }: ShownCamera, needed: readonly Turn[]): string {
  if (wrongWay) return `The picture is ${wanted.camera.mirrored ? "not mirrored" : "mirrored"}`;
  const [first, ...more] = needed;
  if (!first)
    return turns.some((t) => t.say === "unsure")
      ? "Too uncertain to say whether it looks as it should"
      : "It looks as it should";
  return more.length === 0 ? `Turn it ${turnWords(first, looks)}` : "Turn the camera:";
}
