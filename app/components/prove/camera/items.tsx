import type { Camera } from "~/core/camera/pose";
import type { BenchItem } from "../../bench/bench";
import { FITS_CM, GuideLines, worstOf } from "./guide-lines";
import { MeasureCamera, type ShownCamera } from "./measure-camera";
import { GroundSeen, PlaceCamera } from "./place-camera";
import { RearViewRule } from "./rear-view";
import type { Steering } from "./steering-replay";

const PARTS = ["place", "measure", "lines", "rule"] as const;
type Part = (typeof PARTS)[number];

/** What there is to do about one camera, for the list. */
export function cameraItems(camera: ShownCamera): BenchItem[] {
  const { name: group, wanted, measured, wrongWay, looks, time, rear } = camera;
  const turn = camera.turns.some((t) => t.say === "turn");
  const unsure = camera.turns.some((t) => t.say === "unsure");
  const lines = worstOf(camera.lines?.errors ?? []);
  const verdicts = [time?.verdict, rear?.field, rear?.size];
  const item = (part: Part, title: string, rest: Pick<BenchItem, "state" | "word">): BenchItem => ({
    id: `${camera.id} ${part}`,
    title,
    group,
    ...rest,
  });
  return [
    item(
      "place",
      "Place it",
      wanted.placed
        ? { state: "done", word: "placed" }
        : { state: "later", word: wanted.usual.length > 0 ? "usual figures" : "as the document says" },
    ),
    item(
      "measure",
      "Measure it by marks",
      measured === null
        ? { state: "later", word: "not measured yet" }
        : wrongWay || turn
          ? { state: "wrong", word: wrongWay ? "wrong way round" : "to be turned" }
          : unsure
            ? { state: "watch", word: "too uncertain" }
            : { state: "done", word: "straight" },
    ),
    item(
      "lines",
      "Guide lines",
      lines === null
        ? { state: "later", word: "not tapped yet" }
        : { state: lines <= FITS_CM ? "done" : "watch", word: `${lines.toFixed(0)} cm` },
    ),
    ...(looks === "back"
      ? [
          item(
            "rule",
            "Required rear view",
            camera.ruled && verdicts.includes("doesNot")
              ? { state: "wrong" as const, word: "does not meet" }
              : verdicts.every((v) => v === "meets")
                ? { state: "done" as const, word: "meets" }
                : { state: "later" as const, word: camera.ruled ? "cannot be shown yet" : "not looked at" },
          ),
        ]
      : []),
  ];
}

/** What is in hand of the cameras; null when the item is not of them. */
export function CameraInHand({
  id,
  cameras,
  steering,
  draft,
  onDraft,
  standIn,
  after,
}: {
  id: string;
  cameras: readonly ShownCamera[];
  steering: Steering | null;
  draft: Draft;
  onDraft(draft: Draft): void;
  standIn: boolean;
  after: string | undefined;
}) {
  const camera = cameraOf(id, cameras);
  if (!camera) return null;
  const part = id.slice(camera.id.length + 1);
  if (part === "place")
    return (
      <PlaceCamera
        key={id}
        camera={camera}
        draft={draftOf(draft, camera)}
        onDraft={(placed) => onDraft(placed && { camera: camera.id, placed })}
        after={after}
      />
    );
  if (part === "measure") return <MeasureCamera key={id} camera={camera} standIn={standIn} after={after} />;
  if (part === "lines")
    return <GuideLines key={id} camera={camera} steering={steering} standIn={standIn} after={after} />;
  return <RearViewRule key={id} camera={camera} after={after} />;
}

export function cameraOf(id: string, cameras: readonly ShownCamera[]): ShownCamera | undefined {
  return cameras.find((c) => PARTS.some((p) => id === `${c.id} ${p}`));
}

/** A camera that is being placed and not kept yet. */
export type Draft = { camera: string; placed: Camera } | null;

function draftOf(draft: Draft, camera: ShownCamera): Camera {
  return draft?.camera === camera.id ? draft.placed : camera.wanted.camera;
}

/** Beside the camera in hand: the ground as it sees it, or is to see it, and the marks. */
export function CameraGround({ id, camera, draft }: { id: string; camera: ShownCamera; draft: Draft }) {
  const placing = id === `${camera.id} place`;
  const seen = placing ? draftOf(draft, camera) : (camera.measured?.camera ?? camera.wanted.camera);
  return <GroundSeen camera={camera} draft={seen} marks={id === `${camera.id} measure` ? camera.marks : []} />;
}
