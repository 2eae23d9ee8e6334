import type { Camera } from "~/core/camera/pose";
import { GuideLines } from "./guide-lines";
import { cameraOf, type Draft } from "./items";
import { MeasureCamera, type ShownCamera } from "./measure-camera";
import { GroundSeen, PlaceCamera } from "./place-camera";
import { RearViewRule } from "./rear-view";
import type { Steering } from "./steering-replay";

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

function draftOf(draft: Draft, camera: ShownCamera): Camera {
  return draft?.camera === camera.id ? draft.placed : camera.wanted.camera;
}

/** Beside the camera in hand: the ground as it sees it, or is to see it, and the marks. */
export function CameraGround({ id, camera, draft }: { id: string; camera: ShownCamera; draft: Draft }) {
  const placing = id === `${camera.id} place`;
  const seen = placing ? draftOf(draft, camera) : (camera.measured?.camera ?? camera.wanted.camera);
  return <GroundSeen camera={camera} draft={seen} marks={id === `${camera.id} measure` ? camera.marks : []} />;
}
