import type { LineError } from "~/core/camera/guide-lines";
import type { Camera } from "~/core/camera/pose";
import type { BenchItem } from "../../bench/bench";
import type { ShownCamera } from "./measure-camera";

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

/** Up to this a line is said to fit; a kerb is thicker (our judgement). */
export const FITS_CM = 10;

export function worstOf(errors: readonly LineError[]): number | null {
  const known = errors.flatMap((e) => (e.offCm === null ? [] : Math.abs(e.offCm)));
  return known.length > 0 ? Math.max(...known) : null;
}

export function cameraOf(id: string, cameras: readonly ShownCamera[]): ShownCamera | undefined {
  return cameras.find((c) => PARTS.some((p) => id === `${c.id} ${p}`));
}

/** A camera that is being placed and not kept yet. */
export type Draft = { camera: string; placed: Camera } | null;
